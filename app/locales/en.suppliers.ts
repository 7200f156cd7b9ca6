/** Words of the list of suppliers, which load with it. */
export const supplierWords = {
  supplierList: {
    title: 'Suppliers', lead: 'Who you buy from, and everything quoted by each.', new: 'New supplier', none: 'No supplier yet. A name on a quote makes one appear here.', name: 'Name', country: 'Country', currency: 'Currency', contact: 'Contact', notes: 'Notes', save: 'Save', record: 'Keep as a record',
    candidate: 'Candidate', price: 'Unit price', breaks: 'from {{quantity}}: {{price}}', rule: 'Rule', minimum: 'Minimum', date: 'Quoted', valid: 'Valid until', expired: 'expired', lanes: 'Lanes', best: 'Best lane keeps, {{currency}}', nothing: 'Nothing is quoted by this supplier yet.', first: 'first asked {{price}}', csv: 'All quotes as CSV', xlsx: 'All quotes as XLSX',
  },
};
