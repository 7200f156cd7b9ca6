/** What the demo has ordered, drafted and asked, by the names of its candidates. */
export const demoOrders = {
  ordered: ['Suet balls, tub of 50'],
  drafted: ['Seed-starting kit, 24 cells with lid', 'Window feeder, two suction rails'],
  asked: {
    name: 'Rain gauge, brass, on a stake',
    subject: 'Enquiry: Rain gauge, brass, on a stake',
    text:
      'Good day,\n\nwe would like to order Rain gauge, brass, on a stake again, with our own card on it. ' +
      'What would it cost?',
  },
} as const;
