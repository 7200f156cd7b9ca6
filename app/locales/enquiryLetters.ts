/** Letters to suppliers in the languages they are written to in: one set of sentences a language. */
import type { Question } from '../../core/enquiries/schema.ts';
import type { Language } from '../../core/workspace/supplier.ts';

export type Letter = {
  readonly name: string;
  readonly subject: string;
  readonly greeting: string;
  readonly opening: string;
  readonly questions: Readonly<Record<Question, string>>;
  /** Where quantities are named, in place of the question for a price. */
  readonly priceAt: string;
  readonly target: string;
  readonly closing: string;
};

export const letters: Readonly<Record<Language, Letter>> = {
  en: {
    name: 'English',
    subject: 'Enquiry: {{goods}}',
    greeting: 'Dear {{supplier}},',
    opening: 'we are interested in {{goods}} and would like to know:',
    questions: {
      price: 'Your price for one unit, and from which quantities it falls',
      minimumOrder: 'The smallest quantity you take an order for',
      size: 'Length, width and height of one unit in its packaging',
      weight: 'Weight of one unit in its packaging',
      carton: 'Units in an export carton, its size and weight',
      leadDays: 'Days until the goods are ready',
      incoterm: 'On which delivery terms your price stands, and from where',
      deposit: 'Payment: how much in advance, and when the rest',
      branding: 'Whether our name can stand on the goods and their packaging, and what it costs',
      samples: 'Samples: what they cost, and how soon they can be here',
      certificates: 'Which test reports and declarations you have for the goods',
    },
    priceAt: 'Your price for one unit at {{quantities}} units, and from which quantities it falls',
    target: 'To sell it at a fair price we could pay {{price}} a unit.',
    closing: 'Kind regards\n{{by}}',
  },
  de: {
    name: 'Deutsch',
    subject: 'Anfrage: {{goods}}',
    greeting: 'Guten Tag {{supplier}},',
    opening: 'wir interessieren uns für {{goods}} und wüssten gern:',
    questions: {
      price: 'Ihren Preis je Stück und ab welchen Mengen er sinkt',
      minimumOrder: 'Ihre Mindestbestellmenge',
      size: 'Länge, Breite und Höhe eines verpackten Stücks',
      weight: 'Gewicht eines verpackten Stücks',
      carton: 'Stück je Exportkarton, seine Maße und sein Gewicht',
      leadDays: 'Tage, bis die Ware bereitsteht',
      incoterm: 'Zu welcher Lieferbedingung Ihr Preis gilt und ab welchem Ort',
      deposit: 'Zahlung: wie viel im Voraus und wann der Rest',
      branding: 'Ob unser Name auf Ware und Verpackung stehen kann und was das kostet',
      samples: 'Muster: was sie kosten und wie bald sie hier sein können',
      certificates: 'Welche Prüfberichte und Erklärungen zur Ware vorliegen',
    },
    priceAt: 'Ihren Preis je Stück bei {{quantities}} Stück und ab welchen Mengen er sinkt',
    target: 'Um zu einem fairen Preis zu verkaufen, könnten wir {{price}} je Stück zahlen.',
    closing: 'Mit freundlichen Grüßen\n{{by}}',
  },
  fr: {
    name: 'Français',
    subject: 'Demande de prix : {{goods}}',
    greeting: 'Bonjour {{supplier}},',
    opening: 'nous nous intéressons à {{goods}} et souhaitons connaître :',
    questions: {
      price: 'Votre prix à l’unité, et à partir de quelles quantités il baisse',
      minimumOrder: 'La plus petite quantité que vous acceptez',
      size: 'Longueur, largeur et hauteur d’une pièce emballée',
      weight: 'Le poids d’une pièce emballée',
      carton: 'Le nombre de pièces par carton d’exportation, ses dimensions et son poids',
      leadDays: 'Le nombre de jours jusqu’à ce que la marchandise soit prête',
      incoterm: 'Les conditions de livraison de votre prix, et le lieu de départ',
      deposit: 'Le paiement : quelle part d’avance, et quand le reste',
      branding: 'Si notre nom peut figurer sur le produit et l’emballage, et à quel prix',
      samples: 'Les échantillons : leur prix, et sous quel délai',
      certificates: 'Quels rapports d’essai et déclarations existent pour ce produit',
    },
    priceAt: 'Votre prix à l’unité pour {{quantities}} pièces, et à partir de quelles quantités il baisse',
    target: 'Pour vendre à un prix juste, nous pourrions payer {{price}} la pièce.',
    closing: 'Cordialement\n{{by}}',
  },
  es: {
    name: 'Español',
    subject: 'Consulta: {{goods}}',
    greeting: 'Hola {{supplier}}:',
    opening: 'nos interesa {{goods}} y quisiéramos saber:',
    questions: {
      price: 'Su precio por unidad y a partir de qué cantidades baja',
      minimumOrder: 'La cantidad mínima de pedido',
      size: 'Largo, ancho y alto de una unidad embalada',
      weight: 'El peso de una unidad embalada',
      carton: 'Las unidades por caja de exportación, su tamaño y su peso',
      leadDays: 'Los días hasta que la mercancía esté lista',
      incoterm: 'Las condiciones de entrega de su precio y desde dónde',
      deposit: 'El pago: cuánto por adelantado y cuándo el resto',
      branding: 'Si nuestro nombre puede figurar en el producto y el embalaje, y cuánto cuesta',
      samples: 'Las muestras: qué cuestan y cuándo pueden llegar',
      certificates: 'Qué informes de ensayo y declaraciones tienen del producto',
    },
    priceAt: 'Su precio por unidad para {{quantities}} unidades y a partir de qué cantidades baja',
    target: 'Para vender a un precio justo podríamos pagar {{price}} por unidad.',
    closing: 'Saludos cordiales\n{{by}}',
  },
  it: {
    name: 'Italiano',
    subject: 'Richiesta: {{goods}}',
    greeting: 'Buongiorno {{supplier}},',
    opening: 'siamo interessati a {{goods}} e vorremmo sapere:',
    questions: {
      price: 'Il vostro prezzo al pezzo e da quali quantità diminuisce',
      minimumOrder: 'La quantità minima d’ordine',
      size: 'Lunghezza, larghezza e altezza di un pezzo imballato',
      weight: 'Il peso di un pezzo imballato',
      carton: 'I pezzi per cartone da esportazione, le sue misure e il suo peso',
      leadDays: 'I giorni finché la merce è pronta',
      incoterm: 'A quali condizioni di resa vale il prezzo e da dove',
      deposit: 'Il pagamento: quanto in anticipo e quando il resto',
      branding: 'Se il nostro nome può stare sul prodotto e sull’imballo, e quanto costa',
      samples: 'I campioni: quanto costano e quando possono arrivare',
      certificates: 'Quali rapporti di prova e dichiarazioni avete per il prodotto',
    },
    priceAt: 'Il vostro prezzo al pezzo per {{quantities}} pezzi e da quali quantità diminuisce',
    target: 'Per vendere a un prezzo giusto potremmo pagare {{price}} al pezzo.',
    closing: 'Cordiali saluti\n{{by}}',
  },
  pl: {
    name: 'Polski',
    subject: 'Zapytanie: {{goods}}',
    greeting: 'Dzień dobry {{supplier}},',
    opening: 'interesuje nas {{goods}} i chcielibyśmy wiedzieć:',
    questions: {
      price: 'Jaka jest cena za sztukę i od jakich ilości spada',
      minimumOrder: 'Jakie jest minimalne zamówienie',
      size: 'Jaka jest długość, szerokość i wysokość zapakowanej sztuki',
      weight: 'Ile waży zapakowana sztuka',
      carton: 'Ile sztuk jest w kartonie eksportowym, jego wymiary i waga',
      leadDays: 'Po ilu dniach towar jest gotowy',
      incoterm: 'Na jakich warunkach dostawy obowiązuje cena i skąd',
      deposit: 'Płatność: ile z góry i kiedy reszta',
      branding: 'Czy nasza nazwa może być na towarze i opakowaniu i ile to kosztuje',
      samples: 'Próbki: ile kosztują i kiedy mogą dotrzeć',
      certificates: 'Jakie raporty z badań i deklaracje są dla tego towaru',
    },
    priceAt: 'Jaka jest cena za sztukę przy {{quantities}} sztukach i od jakich ilości spada',
    target: 'Aby sprzedawać w uczciwej cenie, moglibyśmy zapłacić {{price}} za sztukę.',
    closing: 'Z poważaniem\n{{by}}',
  },
};
