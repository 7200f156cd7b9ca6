/**
 * More fee tables as people have them, written apart from the reader to find what it read wrongly; and such as
 * are marked on purpose. As `scheduleCorpus.ts` has them: data, table after table, in one file so that a new one
 * is held beside those there are.
 */
import type { CorpusTable } from './scheduleCorpus.ts';

/** Read whole and right, with a question or a fault where the table leaves one. */
export const UNSEEN: readonly CorpusTable[] = [
  {
    name: 'a web page: size categories named once, ounces, a fee past the first pounds, storage below',
    currency: 'USD',
    text: `Fulfillment fees (standard items)

Size category→Shipping weight→Fee per unit¹
Compact→4 oz or less→$2.41
→4+ to 8 oz→$2.63
→8+ to 12 oz→$2.88
→12+ to 16 oz→$3.12
Regular→4 oz or less→$3.05
→4+ to 8 oz→$3.31
→8+ to 16 oz→$3.70
→1+ to 2 lb→$4.85
→2+ to 3 lb→$5.40
→3+ to 20 lb→$5.40 + $0.11 per half-pound above first 3 lb

Storage (per cubic foot)

Month→Standard→Oversize
January – September→$0.81→$0.56
October – December→$2.21→$1.41

¹ Apparel items add $0.40 per unit.`,
    reads: [
      'Compact ≤0.113: 2.41',
      'Compact ≤0.227: 2.63',
      'Compact ≤0.34: 2.88',
      'Compact ≤0.454: 3.12',
      'Regular ≤0.113: 3.05',
      'Regular ≤0.227: 3.31',
      'Regular ≤0.454: 3.7',
      'Regular ≤0.907: 4.85',
      'Regular ≤1.361: 5.4',
      'Regular each 0.227: 0.11',
      'tier Regular ≤9.072',
      'storage 1-9: 28.6',
      'storage 10-12: 78.05',
    ],
    notUnderstood: 2,
    faults: ['scheduleStorageBy'],
  },
  {
    name: 'a list of commissions, one a line, German',
    currency: 'EUR',
    text: `Verkaufsprovision nach Kategorie

Elektronik: 7 %
Haushalt & Küche: 13,5 %
Spielzeug: 12 %, mindestens 0,40 €
Bücher: 15 % zzgl. 0,99 € je Artikel`,
    reads: ['Elektronik 7%', 'Haushalt & Küche 13.5%', 'Spielzeug 12% min 0.4', 'Bücher 15% item 0.99'],
    doubtful: 1,
  },
  {
    name: 'commissions by the price in sentences, and the greater of two',
    currency: 'USD',
    text: `Category→Referral fee
Garden→15% for items with a total price of $20.00 or less, 12% for items above $20.00
Jewellery→20% for the portion up to $250, 5% for any portion above $250
Pets→8% if price is at most $10; otherwise 15%
Tools→The greater of 12% or $0.30`,
    reads: [
      'Garden 15%≤20 / 12% whole',
      'Jewellery 20%≤250 / 5% sliced',
      'Pets 8%≤10 / 15% sliced',
      'Tools 12% min 0.3',
    ],
    doubtful: 1,
  },
  {
    name: 'a surcharge in per cent beside the fees',
    currency: 'GBP',
    text: `Weight (kg)→Zone A→Zone B→Zone C→Fuel surcharge
0.5→3.10→4.20→6.80→6%
1→3.40→4.60→7.40→6%
2→3.90→5.20→8.60→6%
5→5.10→7.00→11.90→6%
Each extra kg→0.60→0.85→1.40→6%`,
    reads: [
      'Zone A ≤0.5: 3.1',
      'Zone B ≤0.5: 4.2',
      'Zone C ≤0.5: 6.8',
      'Zone A ≤1: 3.4',
      'Zone B ≤1: 4.6',
      'Zone C ≤1: 7.4',
      'Zone A ≤2: 3.9',
      'Zone B ≤2: 5.2',
      'Zone C ≤2: 8.6',
      'Zone A ≤5: 5.1',
      'Zone B ≤5: 7',
      'Zone C ≤5: 11.9',
      'Zone A each 1: 0.6',
      'Zone B each 1: 0.85',
      'Zone C each 1: 1.4',
    ],
    notUnderstood: 5,
  },
  {
    name: 'French zones, footnote stars, blanks for thousands',
    currency: 'EUR',
    text: `Tranche de poids→Local→National
Jusqu'à 250 g→2,35 €→2,95 €
De 250 g à 500 g→2,75 €→3,60 €*
De 500 g à 1 000 g→3,20 €→4,40 €
De 1 000 g à 2 000 g→3,95 €→5,70 €`,
    reads: [
      'Local ≤0.25: 2.35',
      'National ≤0.25: 2.95',
      'Local ≤0.5: 2.75',
      'National ≤0.5: 3.6',
      'Local ≤1: 3.2',
      'National ≤1: 4.4',
      'Local ≤2: 3.95',
      'National ≤2: 5.7',
    ],
  },
  {
    name: 'Spanish islands, a further kilogram',
    currency: 'EUR',
    text: `Peso→Península→Baleares→Canarias
Hasta 1 kg→3,95→6,10→11,40
Hasta 3 kg→4,50→7,25→14,90
Hasta 5 kg→5,10→8,60→18,75
Kg adicional→0,55→1,10→3,20`,
    reads: [
      'Península ≤1: 3.95',
      'Baleares ≤1: 6.1',
      'Canarias ≤1: 11.4',
      'Península ≤3: 4.5',
      'Baleares ≤3: 7.25',
      'Canarias ≤3: 14.9',
      'Península ≤5: 5.1',
      'Baleares ≤5: 8.6',
      'Canarias ≤5: 18.75',
      'Península each 1: 0.55',
      'Baleares each 1: 1.1',
      'Canarias each 1: 3.2',
    ],
  },
  {
    name: 'caps of commissions, and none',
    currency: 'GBP',
    text: `Category→Commission→Fee cap
Phones→6%→£30
Cameras→7%→£45
Other→10%→no cap`,
    reads: ['Phones 6% max 30', 'Cameras 7% max 45', 'Other 10%'],
  },
  {
    name: 'least commissions, a dash for none',
    currency: 'EUR',
    text: `| Product group | Rate | Min. per sale |
|---|---:|---:|
| Books and media | 14 % | – |
| Computers | 6,5 % | 0,50 |
| Everything else | 11 % | 0,50 |`,
    reads: ['Books and media 14%', 'Computers 6.5% min 0.5', 'Everything else 11% min 0.5'],
  },
  {
    name: 'what an order costs beside what a unit does',
    currency: 'USD',
    text: `Weight→Per order→Per unit
Up to 1 lb→$3.00→$1.00
Over 1 lb to 2 lb→$3.00→$1.60
Over 2 lb→$3.00→$1.60 + $0.40/lb`,
    reads: ['– ≤0.454: 1', '– ≤0.907: 1.6', '– each 0.454: 0.4'],
    notUnderstood: 3,
  },
  {
    name: 'a most in brackets, Polish CSV',
    currency: 'PLN',
    text: `"Kategoria","Prowizja","Opłata minimalna"
"Dom i ogród","11%","1,00 zł"
"Elektronika","5,5%","1,00 zł"
"Moda","12,5% (maks. 80 zł)","1,00 zł"`,
    reads: ['Dom i ogród 11% min 1', 'Elektronika 5.5% min 1', 'Moda 12.5% min 1 max 80'],
  },
  {
    name: 'storage a litre, German',
    currency: 'EUR',
    text: `Lagergebühr pro Liter und Monat
Jan–Sep→0,026
Okt–Dez→0,038`,
    reads: ['storage 1-9: 26', 'storage 10-12: 38'],
  },
  {
    name: 'two tables told apart by their titles',
    currency: 'EUR',
    text: `Germany
Weight→Fee
up to 1 kg→3.10
up to 2 kg→3.60

France
Weight→Fee
up to 1 kg→4.10
up to 2 kg→4.70`,
    reads: ['Germany ≤1: 3.1', 'Germany ≤2: 3.6', 'France ≤1: 4.1', 'France ≤2: 4.7'],
    faults: ['scheduleTitles'],
  },
  {
    name: 'each further pound over five, aligned text',
    currency: 'USD',
    text: `Outbound weight     Small box   Medium box   Large box
Not over 8 oz          2.19         2.98          --
Not over 1 lb          2.74         3.45         5.10
Not over 2 lb          3.30         3.99         5.85
Not over 5 lb            --         5.25         7.40
Each lb over 5 lb        --         0.38         0.52`,
    reads: [
      'Small box ≤0.227: 2.19',
      'Medium box ≤0.227: 2.98',
      'Small box ≤0.454: 2.74',
      'Medium box ≤0.454: 3.45',
      'Large box ≤0.454: 5.1',
      'Small box ≤0.907: 3.3',
      'Medium box ≤0.907: 3.99',
      'Large box ≤0.907: 5.85',
      'Medium box ≤2.268: 5.25',
      'Large box ≤2.268: 7.4',
      'Medium box each 0.454: 0.38',
      'Large box each 0.454: 0.52',
    ],
  },
  {
    name: 'German letters for sides, net and gross',
    currency: 'EUR',
    text: `Format;L max (mm);B max (mm);H max (mm);Gewicht max (g);Entgelt netto (EUR);Entgelt brutto (EUR)
Brief;235;125;5;20;0,80;0,95
Maxibrief;353;250;50;1000;2,70;3,21
Päckchen S;350;250;100;2000;3,35;3,99`,
    reads: [
      'Brief ≤0.02: 0.8',
      'Maxibrief ≤1: 2.7',
      'Päckchen S ≤2: 3.35',
      'tier Brief 23.5×12.5×0.5',
      'tier Maxibrief 35.3×25×5',
      'tier Päckchen S 35×25×10',
    ],
  },
  {
    name: 'the first grams and the next, with a greatest weight',
    currency: 'AUD',
    text: `Parcel class→First 500 g→Next each 500 g→Max weight
Satchel→$6.20→$1.10→5 kg
Carton→$8.40→$1.75→22 kg`,
    reads: [
      'Satchel ≤0.5: 6.2',
      'Satchel each 0.5: 1.1',
      'Carton ≤0.5: 8.4',
      'Carton each 0.5: 1.75',
      'tier Satchel ≤5',
      'tier Carton ≤22',
    ],
  },
  {
    name: 'another percentage over a price, in brackets',
    currency: 'GBP',
    text: `Selling fees (all excluding VAT)

Category                 Fee
Home and garden          12.5%
Clothing                 15% (10% over £75)
Electrical               7% up to £500, then 3%
Gift cards               Free`,
    reads: [
      'Home and garden 12.5%',
      'Clothing 15%≤75 / 10% sliced',
      'Electrical 7%≤500 / 3% sliced',
      'Gift cards 0%',
    ],
    doubtful: 2,
  },
  {
    name: 'storage by season and size, under merged headings',
    currency: 'GBP',
    text: `→Jan–Sep→→Oct–Dec→
→Standard→Oversize→Standard→Oversize
Per cubic foot per month→£0.68→£0.47→£1.05→£0.75`,
    reads: ['storage 1-9: 24.01', 'storage 10-12: 37.08'],
    notUnderstood: 2,
    faults: ['scheduleStorageBy'],
  },
  {
    name: 'Italian islands, on request',
    currency: 'EUR',
    text: `| Fascia di peso | Italia | Isole |
| fino a 2 kg | 5,90 € | 7,40 € |
| da 2 a 5 kg | 6,80 € | 8,90 € |
| da 5 a 10 kg | 8,20 € | 11,30 € |
| oltre 10 kg | su richiesta | su richiesta |`,
    reads: [
      'Italia ≤2: 5.9',
      'Isole ≤2: 7.4',
      'Italia ≤5: 6.8',
      'Isole ≤5: 8.9',
      'Italia ≤10: 8.2',
      'Isole ≤10: 11.3',
    ],
  },
  {
    name: 'dots that lead to the figure',
    currency: 'USD',
    text: `Up to 1 lb .......... $4.10
Up to 3 lb .......... $5.35
Up to 10 lb ......... $8.20
Each additional lb .. $0.45`,
    reads: ['– ≤0.454: 4.1', '– ≤1.361: 5.35', '– ≤4.536: 8.2', '– each 0.454: 0.45'],
  },
  {
    name: 'countries as zones in a long list',
    currency: 'EUR',
    text: `Country→Weight up to (kg)→Price (EUR)
Austria→1→4.10
Austria→3→5.20
Belgium→1→4.60
Belgium→3→5.90`,
    reads: ['Austria ≤1: 4.1', 'Austria ≤3: 5.2', 'Belgium ≤1: 4.6', 'Belgium ≤3: 5.9'],
  },
  {
    name: 'limits of sizes in sentences',
    currency: 'USD',
    text: `Size tier→Description→Fee
Slim→12 oz or less, longest side 15 in or less, shortest side 0.75 in or less, median side 12 in or less→$3.10
Bulky→70 lb or less, longest side 108 in or less→$9.20 + $0.42/lb above first lb`,
    reads: [
      'Slim: 3.1',
      'Bulky ≤0.454: 9.2',
      'Bulky each 0.454: 0.42',
      'tier Slim 38.1×30.48×1.91 ≤0.34',
      'tier Bulky 274.32×274.32×274.32 ≤31.751',
    ],
  },
  {
    name: 'Polish services, one without',
    currency: 'PLN',
    text: `Waga→Punkt→Kurier→Za granicę
do 1 kg→8,99 zł→12,49 zł→39,00 zł
do 5 kg→10,99 zł→14,99 zł→59,00 zł
do 20 kg→14,99 zł→19,99 zł→brak`,
    reads: [
      'Punkt ≤1: 8.99',
      'Kurier ≤1: 12.49',
      'Za granicę ≤1: 39',
      'Punkt ≤5: 10.99',
      'Kurier ≤5: 14.99',
      'Za granicę ≤5: 59',
      'Punkt ≤20: 14.99',
      'Kurier ≤20: 19.99',
    ],
  },
  {
    name: 'fees of two days side by side',
    currency: 'USD',
    text: `Size→Weight→Until Jan 14, 2027→From Jan 15, 2027
Small→6 oz→$2.10→$2.22
Small→12 oz→$2.40→$2.51`,
    reads: ['Small ≤0.17: 2.22', 'Small ≤0.34: 2.51'],
    faults: ['scheduleDated'],
  },
  {
    name: 'French lines with a colon',
    currency: 'EUR',
    text: `Poids du colis : tarif
Moins de 500 grammes : 4,55 €
Moins de 1 kilo : 5,35 €
Moins de 2 kilos : 6,70 €`,
    reads: ['– ≤0.5: 4.55', '– ≤1: 5.35', '– ≤2: 6.7'],
  },
  {
    name: 'French, two titled tables under a third title',
    currency: 'EUR',
    text: `Tarifs d'expédition

Colis standard
Poids→Tarif
0 - 250 g→2,75 €
250 g - 500 g→3,10 €
500 g - 1 kg→3,55 €

Colis volumineux
Poids→Tarif
0 - 5 kg→8,90 €
5 - 10 kg→11,40 €`,
    reads: [
      'Colis standard ≤0.25: 2.75',
      'Colis standard ≤0.5: 3.1',
      'Colis standard ≤1: 3.55',
      'Colis volumineux ≤5: 8.9',
      'Colis volumineux ≤10: 11.4',
    ],
    faults: ['scheduleTitles'],
  },
  {
    name: 'subcategories under categories named once',
    currency: 'USD',
    text: `Category→Subcategory→Commission→Minimum
Home→Furniture→15% up to $200, 10% above→$0.30
→Kitchen→15%→$0.30
Media→Books→15%→—
→Games→12%→—`,
    reads: [
      'Home, Furniture 15%≤200 / 10% sliced min 0.3',
      'Home, Kitchen 15% min 0.3',
      'Media, Books 15%',
      'Media, Games 12%',
    ],
    doubtful: 1,
  },
  {
    name: 'two kinds of goods side by side, ounces',
    currency: 'USD',
    text: `Size tier→Shipping weight→Non-apparel→Apparel
Small standard→2 oz or less→$3.06→$3.27
Small standard→2+ to 4 oz→$3.15→$3.42
Large standard→4 oz or less→$3.68→$4.15`,
    reads: [
      'Small standard, Non-apparel ≤0.057: 3.06',
      'Small standard, Apparel ≤0.057: 3.27',
      'Small standard, Non-apparel ≤0.113: 3.15',
      'Small standard, Apparel ≤0.113: 3.42',
      'Large standard, Non-apparel ≤0.113: 3.68',
      'Large standard, Apparel ≤0.113: 4.15',
    ],
  },
  {
    name: 'price bands across that say what has the price',
    currency: 'USD',
    text: `Size→Weight→Items under $10→Items $10 to $50→Items over $50
Small→4 oz→$2.29→$3.06→$3.32
Small→8 oz→$2.45→$3.24→$3.50`,
    reads: [
      'Small ≤0.113 price≤10: 2.29',
      'Small ≤0.113 price≤50: 3.06',
      'Small ≤0.113: 3.32',
      'Small ≤0.227 price≤10: 2.45',
      'Small ≤0.227 price≤50: 3.24',
      'Small ≤0.227: 3.5',
    ],
  },
  {
    name: 'amounts in cents, by the heading',
    currency: 'EUR',
    text: `"Gewichtsstufe";"Preis in Cent"
"bis 500 g";"389"
"bis 1000 g";"449"`,
    reads: ['– ≤0.5: 3.89', '– ≤1: 4.49'],
  },
  {
    name: 'pounds and ounces together',
    currency: 'USD',
    text: `Weight→Rate
up to 15 oz→$3.90
1 lb 0 oz to 1 lb 8 oz→$4.60
1 lb 9 oz to 2 lb→$5.10`,
    reads: ['– ≤0.425: 3.9', '– ≤0.68: 4.6', '– ≤0.907: 5.1'],
  },
  {
    name: 'francs by code',
    currency: 'CHF',
    text: `Gewicht;Tarif
bis 2 kg;CHF 7.00
bis 10 kg;CHF 10.50
bis 30 kg;CHF 21.50`,
    reads: ['– ≤2: 7', '– ≤10: 10.5', '– ≤30: 21.5'],
  },
  {
    name: 'services under zones, two lines of headings',
    currency: 'EUR',
    text: `→Zone 1 (domestic)→→Zone 2 (EU)→
Weight→2 days→Next day→4 days→2 days
1 kg→3.90→6.20→8.40→15.10
3 kg→4.70→7.30→10.20→19.60`,
    reads: [
      'Zone 1 (domestic) 2 days ≤1: 3.9',
      'Zone 1 (domestic) Next day ≤1: 6.2',
      'Zone 2 (EU) 4 days ≤1: 8.4',
      'Zone 2 (EU) 2 days ≤1: 15.1',
      'Zone 1 (domestic) 2 days ≤3: 4.7',
      'Zone 1 (domestic) Next day ≤3: 7.3',
      'Zone 2 (EU) 4 days ≤3: 10.2',
      'Zone 2 (EU) 2 days ≤3: 19.6',
    ],
  },
  {
    name: 'weights and a further one across, German',
    currency: 'EUR',
    text: `Zone;0,5 kg;1 kg;2 kg;je weiteres kg
Inland;3,20;3,60;4,10;0,30
EU 1;6,90;7,80;9,20;0,95`,
    reads: [
      'Inland ≤0.5: 3.2',
      'Inland ≤1: 3.6',
      'Inland ≤2: 4.1',
      'Inland each 1: 0.3',
      'EU 1 ≤0.5: 6.9',
      'EU 1 ≤1: 7.8',
      'EU 1 ≤2: 9.2',
      'EU 1 each 1: 0.95',
    ],
  },
  {
    name: 'VAT and gross beside net',
    currency: 'GBP',
    text: `Weight→Net→VAT 20%→Gross
up to 1 kg→2.50→0.50→3.00
up to 2 kg→3.00→0.60→3.60`,
    reads: ['– ≤1: 2.5', '– ≤2: 3'],
  },
  {
    name: 'Spanish sizes with limits',
    currency: 'EUR',
    text: `Tamaño;Medidas máximas;Peso máximo;Tarifa
Sobre;33 x 23 x 2,5 cm;460 g;2,35 €
Paquete estándar;45 x 34 x 26 cm;12 kg;4,10 €
Paquete grande;61 x 46 x 46 cm;28 kg;7,85 €`,
    reads: [
      'Sobre ≤0.46: 2.35',
      'Paquete estándar ≤12: 4.1',
      'Paquete grande ≤28: 7.85',
      'tier Sobre 33×23×2.5',
      'tier Paquete estándar 45×34×26',
      'tier Paquete grande 61×46×46',
    ],
  },
  {
    name: 'less than, and up',
    currency: 'USD',
    text: `Weight class|Fee
Less than 1 lb|$3.20
1 lb to less than 2 lb|$4.10
2 lb to less than 5 lb|$5.60
5 lb and up|$5.60 plus $0.40 per additional lb`,
    reads: ['– ≤0.454: 3.2', '– ≤0.907: 4.1', '– ≤2.268: 5.6', '– each 0.454: 0.4'],
  },
  {
    name: 'weights across without blanks',
    currency: 'GBP',
    text: `Service→100g→250g→500g→1kg
Letter→0.85→1.35→1.90→n/a
Large letter→1.55→2.00→2.60→3.50
Parcel→3.69→3.69→3.69→3.69`,
    reads: [
      'Letter ≤0.1: 0.85',
      'Letter ≤0.25: 1.35',
      'Letter ≤0.5: 1.9',
      'Large letter ≤0.1: 1.55',
      'Large letter ≤0.25: 2',
      'Large letter ≤0.5: 2.6',
      'Large letter ≤1: 3.5',
      'Parcel ≤0.1: 3.69',
      'Parcel ≤0.25: 3.69',
      'Parcel ≤0.5: 3.69',
      'Parcel ≤1: 3.69',
    ],
  },
  {
    name: 'the first pounds in brackets, two sides',
    currency: 'USD',
    text: `Size→Max weight→Max dimensions→Fulfillment fee
Envelope→1 lb→15 x 12 x 0.75 in→$2.95
Box→20 lb→18 x 14 x 8 in→$4.25 (first lb) + $0.35 each additional lb
Oversize→70 lb→60 x 30 in→$9.10 (first 2 lb) + $0.41 each additional lb`,
    reads: [
      'Envelope ≤0.454: 2.95',
      'Box ≤0.454: 4.25',
      'Box each 0.454: 0.35',
      'Oversize ≤0.907: 9.1',
      'Oversize each 0.454: 0.41',
      'tier Envelope 38.1×30.48×1.91',
      'tier Box 45.72×35.56×20.32 ≤9.072',
      'tier Oversize 152.4×76.2 ≤31.751',
    ],
  },
  {
    name: 'percentages by ranges of price across',
    currency: 'USD',
    text: `Department→$0–$15→$15.01–$20→Above $20
Clothing→5%→10%→17%
Shoes→15%→15%→15%`,
    reads: ['Clothing 5%≤15 / 10%≤20 / 17% sliced', 'Shoes 15%≤15 / 15%≤20 / 15% sliced'],
    faults: ['scheduleMode'],
  },
  {
    name: 'a French title that says the unit',
    currency: 'EUR',
    text: `Frais de stockage mensuels par mètre cube
Période ; Articles standard
De janvier à septembre ; 27,54 €
D'octobre à décembre ; 38,10 €`,
    reads: ['storage 1-9: 27.54', 'storage 10-12: 38.1'],
  },
  {
    name: 'ages in months',
    currency: 'GBP',
    text: `Age of stock→Fee per cubic foot
6–9 months→£0.50
9–12 months→£1.00
over 12 months→£3.00`,
    reads: ['age 6-9: 17.66', 'age 9-12: 35.31', 'age 12-: 105.94'],
    faults: ['scheduleAgeAdds'],
  },
  {
    name: 'German counters and online',
    currency: 'EUR',
    text: `Gewicht bis einschl.→Preis online→Preis Filiale
2 kg→4,99 €→5,49 €
5 kg→5,99 €→6,99 €
10 kg→8,49 €→9,49 €`,
    reads: [
      'Preis online ≤2: 4.99',
      'Preis Filiale ≤2: 5.49',
      'Preis online ≤5: 5.99',
      'Preis Filiale ≤5: 6.99',
      'Preis online ≤10: 8.49',
      'Preis Filiale ≤10: 9.49',
    ],
  },
  {
    name: 'blanks alone between words and figures',
    currency: 'EUR',
    text: `Weight Price
up to 1 kg 3.20
up to 2 kg 3.95
up to 5 kg 5.10`,
    reads: ['– ≤1: 3.2', '– ≤2: 3.95', '– ≤5: 5.1'],
  },
  {
    name: 'Polish storage',
    currency: 'PLN',
    text: `Okres;Stawka za m³ miesięcznie
Styczeń–wrzesień;90,00 zł
Październik–grudzień;130,00 zł`,
    reads: ['storage 1-9: 90', 'storage 10-12: 130'],
  },
  {
    name: 'Japanese slices',
    currency: 'JPY',
    text: `カテゴリー→販売手数料
本→15%
家電→8%
ファッション→3000円まで12%、超過分8%`,
    reads: ['本 15%', '家電 8%', 'ファッション 12%≤3000 / 8% sliced'],
  },
  {
    name: 'grams with thousands',
    currency: 'EUR',
    text: `Peso (g);Tariffa
fino a 1.000;4,10
fino a 2.500;5,20
fino a 10.000;7,60`,
    reads: ['– ≤1: 4.1', '– ≤2.5: 5.2', '– ≤10: 7.6'],
  },
  {
    name: 'countries in brackets behind zones',
    currency: 'EUR',
    text: `Weight;Zone 1 (AT, BE, NL);Zone 2 (ES, IT, PL);Zone 3 (GR, FI)
0–2 kg;9.10;11.30;14.80
2–5 kg;10.40;13.00;17.50
5–10 kg;13.20;17.70;24.00`,
    reads: [
      'Zone 1 (AT, BE, NL) ≤2: 9.1',
      'Zone 2 (ES, IT, PL) ≤2: 11.3',
      'Zone 3 (GR, FI) ≤2: 14.8',
      'Zone 1 (AT, BE, NL) ≤5: 10.4',
      'Zone 2 (ES, IT, PL) ≤5: 13',
      'Zone 3 (GR, FI) ≤5: 17.5',
      'Zone 1 (AT, BE, NL) ≤10: 13.2',
      'Zone 2 (ES, IT, PL) ≤10: 17.7',
      'Zone 3 (GR, FI) ≤10: 24',
    ],
  },
  {
    name: 'inches as marks in columns, a divisor of pounds',
    currency: 'USD',
    text: `Tier→Length→Width→Height→Weight→Dimensional weight divisor
Small→15"→12"→0.75"→16 oz→none
Standard→18"→14"→8"→20 lb→139`,
    reads: ['tier Small 38.1×30.48×1.91 ≤0.454', 'tier Standard 45.72×35.56×20.32 ≤9.072 div 5021.69'],
  },
  {
    name: 'headings between the rows',
    currency: 'USD',
    text: `Weight→Fee
Small items
6 oz or less→$2.30
12 oz or less→$2.60
Large items
1 lb or less→$4.10
2 lb or less→$4.75`,
    reads: [
      'Small items ≤0.17: 2.3',
      'Small items ≤0.34: 2.6',
      'Large items ≤0.454: 4.1',
      'Large items ≤0.907: 4.75',
    ],
  },
  {
    name: 'cells one a line',
    currency: 'USD',
    text: `Size tier
Weight
Fee
Small
8 oz
$2.50
Medium
1 lb
$3.75
Large
3 lb
$5.90`,
    reads: ['Small ≤0.227: 2.5', 'Medium ≤0.454: 3.75', 'Large ≤1.361: 5.9'],
  },
  {
    name: 'weights behind the names of sizes',
    currency: 'GBP',
    text: `Parcel type,Price
Small parcel up to 1kg,£3.10
Small parcel up to 2kg,£3.85
Medium parcel up to 5kg,£6.40
Medium parcel up to 10kg,£8.20`,
    reads: [
      'Small parcel ≤1: 3.1',
      'Small parcel ≤2: 3.85',
      'Medium parcel ≤5: 6.4',
      'Medium parcel ≤10: 8.2',
    ],
  },
  {
    name: 'prices and weights in columns',
    currency: 'EUR',
    text: `Item price→Weight→Fee
under 10.00→0-500 g→2.10
under 10.00→500 g-1 kg→2.60
10.00 or more→0-500 g→2.90
10.00 or more→500 g-1 kg→3.40`,
    reads: ['– ≤0.5 price≤10: 2.1', '– ≤1 price≤10: 2.6', '– ≤0.5: 2.9', '– ≤1: 3.4'],
  },
  {
    name: 'bare percentages, by a sign in the heading',
    currency: 'PLN',
    text: `Kategoria→Stawka netto (%)→Min. (zł)→Maks. (zł)
Dom→9→0,50→-
Sport→10→0,50→100`,
    reads: ['Dom 9% min 0.5', 'Sport 10% min 0.5 max 100'],
  },
  {
    name: 'French months cut short',
    currency: 'EUR',
    text: `Taille→Janv.–sept. (€/m³)→Oct.–déc. (€/m³)
Toutes→26,00→36,00`,
    reads: ['storage 1-9: 26', 'storage 10-12: 36'],
  },
  {
    name: 'ranges with one unit behind them',
    currency: 'EUR',
    text: `Gewicht;Preis
0–250 g;2,10
251–500 g;2,55
501–1.000 g;3,20
1.001–2.000 g;4,45`,
    reads: ['– ≤0.25: 2.1', '– ≤0.5: 2.55', '– ≤1: 3.2', '– ≤2: 4.45'],
  },
  {
    name: 'units in a line of their own',
    currency: 'EUR',
    text: `Tier,Max weight,Length,Width,Height,Fee
,kg,cm,cm,cm,EUR
S,1,30,20,5,2.80
M,5,50,40,20,4.60`,
    reads: ['S ≤1: 2.8', 'M ≤5: 4.6', 'tier S 30×20×5', 'tier M 50×40×20'],
  },
  {
    name: 'amounts in brackets',
    currency: 'USD',
    text: `Size→Weight→Amount
Small→8 oz→($2.50)
Small→1 lb→($3.10)`,
    reads: ['Small ≤0.227: 2.5', 'Small ≤0.454: 3.1'],
  },
  {
    name: "Polish weights across, named by 'to'",
    currency: 'EUR',
    text: `Do kg;0,5;1;2;5
Cena;8,50;9,20;10,90;13,40`,
    reads: ['– ≤0.5: 8.5', '– ≤1: 9.2', '– ≤2: 10.9', '– ≤5: 13.4'],
  },
  {
    name: 'commissions by the price that leave the manner open',
    currency: 'USD',
    text: `Category→Commission
Beauty→8% of sale price for items $10 or less; 15% for items over $10
Grocery→8% up to $15, 15% above
Furniture→15% (up to $200), 10% (above $200)
Watches→16% up to $1,500, then 3%`,
    reads: [
      'Beauty 8%≤10 / 15% sliced',
      'Grocery 8%≤15 / 15% sliced',
      'Furniture 15%≤200 / 10% sliced',
      'Watches 16%≤1500 / 3% sliced',
    ],
    doubtful: 4,
  },
  {
    name: 'Polish commissions by the price, no categories',
    currency: 'PLN',
    text: `Cena produktu;Prowizja
do 50 zł;12%
50,01 zł – 200 zł;10%
powyżej 200 zł;8%`,
    reads: [' 12%≤50 / 10%≤200 / 8% whole'],
    faults: ['scheduleModeWhole'],
  },
  {
    name: 'parcels by ounces and by pounds under titles',
    currency: 'USD',
    text: `Fee schedule effective March 1

Small and light parcels
Weight→Domestic→Canada
1 - 4 oz→$3.15→$9.80
5 - 8 oz→$3.60→$11.20
9 - 12 oz→$4.05→$12.90
13 - 15.99 oz→$4.90→$14.75

Heavier parcels
Pounds→Domestic→Canada
1→$5.85→$17.20
2→$6.70→$20.10
3→$7.60→$23.40`,
    reads: [
      'Domestic ≤0.113: 3.15',
      'Canada ≤0.113: 9.8',
      'Domestic ≤0.227: 3.6',
      'Canada ≤0.227: 11.2',
      'Domestic ≤0.34: 4.05',
      'Canada ≤0.34: 12.9',
      'Domestic ≤0.453: 4.9',
      'Canada ≤0.453: 14.75',
      'Domestic ≤0.454: 5.85',
      'Canada ≤0.454: 17.2',
      'Domestic ≤0.907: 6.7',
      'Canada ≤0.907: 20.1',
      'Domestic ≤1.361: 7.6',
      'Canada ≤1.361: 23.4',
    ],
  },
  {
    name: 'French commissions with footnotes of amounts',
    currency: 'EUR',
    text: `Catégorie→Commission*→Minimum
Jardin→15 %→0,30 €
Livres→15 %¹→–
Informatique→7 %→0,30 €

* hors TVA, sur le prix total
¹ plus 0,50 € par article`,
    reads: ['Jardin 15% min 0.3', 'Livres 15%', 'Informatique 7% min 0.3'],
  },
  {
    name: 'storage by age and season, the first as the basis',
    currency: 'EUR',
    text: `Storage per m³ and month
Age→Jan-Sep→Oct-Dec
0-180 days→24.00→34.00
181-365 days→36.00→46.00
over 365 days→90.00→90.00`,
    reads: ['storage 1-9: 24', 'storage 10-12: 34', 'age 5.91-12: 12', 'age 12-: 66'],
    notUnderstood: 2,
    faults: ['scheduleAgeTotal'],
  },
  {
    name: 'pounds with decimal commas',
    currency: 'CAD',
    text: `Tier;Poids;Frais
Petit;jusqu'à 0,5 lb;3,10 $
Petit;0,5 à 1 lb;3,65 $
Grand;jusqu'à 1 lb;5,20 $
Grand;par lb supplémentaire;0,48 $`,
    reads: ['Petit ≤0.227: 3.1', 'Petit ≤0.454: 3.65', 'Grand ≤0.454: 5.2', 'Grand each 0.454: 0.48'],
  },
  {
    name: 'categories of several words',
    currency: 'USD',
    text: `Category→Fee
Books, music, video→15% + $1.80
Home; kitchen; garden→15%
Computers & tablets→8%`,
    reads: ['Books, music, video 15% item 1.8', 'Home; kitchen; garden 15%', 'Computers & tablets 8%'],
  },
  {
    name: 'commissions in slices, a row each',
    currency: 'USD',
    text: `Sale price→Fee
First $50→12%
$50.01 – $500→9%
Above $500→3%`,
    reads: [' 12%≤50 / 9%≤500 / 3% sliced'],
  },
  {
    name: 'charges and a commission in lines',
    currency: 'GBP',
    text: `Monthly subscription: £25.00
Per item fee: £0.75
Payment processing: 1.4% + £0.20
Commission: 12%`,
    reads: [' 12%', 'subscription 25', 'itemFee 0.75', 'payment 1.4% 0.2'],
  },
  {
    name: 'Japanese storage, a number in the heading',
    currency: 'JPY',
    text: `期間→保管料（1立方メートルあたり/月）
1月～9月→5,676円
10月～12月→9,000円`,
    reads: ['storage 1-9: 5676', 'storage 10-12: 9000'],
  },
  {
    name: 'Polish sizes',
    currency: 'PLN',
    text: `Gabaryt;Wymiary maks.;Waga maks.;Cena
A;8 x 38 x 64 cm;25 kg;12,99 zł
B;19 x 38 x 64 cm;25 kg;14,49 zł
C;41 x 38 x 64 cm;25 kg;16,99 zł`,
    reads: [
      'A ≤25: 12.99',
      'B ≤25: 14.49',
      'C ≤25: 16.99',
      'tier A 64×38×8',
      'tier B 64×38×19',
      'tier C 64×41×38',
    ],
  },
  {
    name: 'Italian names with sizes',
    currency: 'EUR',
    text: `Dimensioni pacco;Peso fino a;Tariffa
Busta piccola (20 x 15 x 1 cm);80 g;1,97 €
Busta standard (33 x 23 x 2,5 cm);60 g;2,09 €
Busta standard (33 x 23 x 2,5 cm);210 g;2,24 €`,
    reads: [
      'Busta piccola ≤0.08: 1.97',
      'Busta standard ≤0.06: 2.09',
      'Busta standard ≤0.21: 2.24',
      'tier Busta piccola 20×15×1',
      'tier Busta standard 33×23×2.5',
    ],
  },
  {
    name: 'least and greatest weights',
    currency: 'EUR',
    text: `Min weight (g);Max weight (g);Fee (EUR)
0;250;2.10
251;500;2.40
501;1000;3.05`,
    reads: ['– ≤0.25: 2.1', '– ≤0.5: 2.4', '– ≤1: 3.05'],
  },
  {
    name: 'a sentence under the table',
    currency: 'USD',
    text: `Size→Weight→Fee
Small→8 oz→$2.50
Medium→1 lb→$3.75
Prices include packaging and pick-up. Valid until Dec 31.`,
    reads: ['Small ≤0.227: 2.5', 'Medium ≤0.454: 3.75'],
  },
  {
    name: 'sides by their rank',
    currency: 'USD',
    text: `Tier→Longest side→Median side→Shortest side→Shipping weight
Small→15 in→12 in→0.75 in→16 oz
Large→18 in→14 in→8 in→20 lb`,
    reads: ['tier Small 38.1×30.48×1.91 ≤0.454', 'tier Large 45.72×35.56×20.32 ≤9.072'],
  },
  {
    name: 'services down, weights across, a further pound',
    currency: 'USD',
    text: `Shipping service→Up to 1 lb→Up to 5 lb→Up to 10 lb→Each lb over 10
Saver→$5.10→$8.40→$12.60→$0.62
Rapid→$9.80→$15.20→$22.90→$1.10`,
    reads: [
      'Saver ≤0.454: 5.1',
      'Saver ≤2.268: 8.4',
      'Saver ≤4.536: 12.6',
      'Saver each 0.454: 0.62',
      'Rapid ≤0.454: 9.8',
      'Rapid ≤2.268: 15.2',
      'Rapid ≤4.536: 22.9',
      'Rapid each 0.454: 1.1',
    ],
  },
  {
    name: 'German commissions by the price',
    currency: 'EUR',
    text: `Verkaufspreis (brutto)→Provision
bis 100 €→14 %
über 100 € bis 500 €→12 %
über 500 €→9 %`,
    reads: [' 14%≤100 / 12%≤500 / 9% whole'],
    faults: ['scheduleModeWhole'],
  },
  {
    name: 'commissions in lines with a least one',
    currency: 'GBP',
    text: `Category: Fee
Clothing: 15%
Electronics: 8% (min £0.40)
Toys and games: 12.75%
Everything else: 14%`,
    reads: ['Clothing 15%', 'Electronics 8% min 0.4', 'Toys and games 12.75%', 'Everything else 14%'],
  },
  {
    name: 'storage by the day',
    currency: 'EUR',
    text: `Storage→Per m³ per day
Jan–Sep→0.85
Oct–Dec→1.20`,
    reads: ['storage 1-9: 25.87', 'storage 10-12: 36.52'],
    faults: ['scheduleOften'],
  },
  {
    name: 'a list of percentages alone',
    currency: 'USD',
    text: `Luggage→15%
Cameras→8%
Mobile phones→8%
Home audio→8%`,
    reads: ['Luggage 15%', 'Cameras 8%', 'Mobile phones 8%', 'Home audio 8%'],
  },
  {
    name: 'services under two regions',
    currency: 'GBP',
    text: `Weight→UK→→EU→
→Standard→Tracked→Standard→Tracked
100 g→1.20→2.95→2.10→6.40
500 g→1.95→3.45→3.90→8.10
1 kg→3.10→4.20→6.80→10.30`,
    reads: [
      'UK Standard ≤0.1: 1.2',
      'UK Tracked ≤0.1: 2.95',
      'EU Standard ≤0.1: 2.1',
      'EU Tracked ≤0.1: 6.4',
      'UK Standard ≤0.5: 1.95',
      'UK Tracked ≤0.5: 3.45',
      'EU Standard ≤0.5: 3.9',
      'EU Tracked ≤0.5: 8.1',
      'UK Standard ≤1: 3.1',
      'UK Tracked ≤1: 4.2',
      'EU Standard ≤1: 6.8',
      'EU Tracked ≤1: 10.3',
    ],
  },
  {
    name: 'signs for weights, on request past the last',
    currency: 'EUR',
    text: `Gewicht in kg;Entgelt
≤ 2;4,39
≤ 5;5,49
≤ 10;8,69
> 10;auf Anfrage`,
    reads: ['– ≤2: 4.39', '– ≤5: 5.49', '– ≤10: 8.69'],
  },
  {
    name: 'weights between two signs',
    currency: 'USD',
    text: `Item→Weight→Fee*
Standard→≤ 1 lb→$3.10
Standard→> 1 lb ≤ 2 lb→$3.65
Standard→> 2 lb→$3.65 + $0.30 / lb above 2 lb
* plus 3% fuel`,
    reads: ['Standard ≤0.454: 3.1', 'Standard ≤0.907: 3.65', 'Standard each 0.454: 0.3'],
  },
  {
    name: 'French charges and a commission',
    currency: 'EUR',
    text: `Frais d'abonnement : 39,00 € par mois
Commission : 12 %
Frais de paiement : 1,5 % + 0,25 €`,
    reads: [' 12%', 'subscription 39', 'payment 1.5% 0.25'],
  },
  {
    name: 'limits of the price in two columns, the last open',
    currency: 'EUR',
    text: `From→To→Commission
0.00→50.00→15%
50.00→200.00→12%
200.00→→9%`,
    reads: [' 15%≤50 / 12%≤200 / 9% whole'],
    faults: ['scheduleModeWhole'],
  },
  {
    name: 'a column for each country in its currency',
    currency: 'EUR',
    text: `Size→Weight→Germany (EUR)→Poland (PLN)→Sweden (SEK)
S→up to 1 kg→2.90→11.90→29.00
M→up to 5 kg→4.10→16.40→41.00`,
    reads: ['S, Germany ≤1: 2.9', 'M, Germany ≤5: 4.1'],
    notUnderstood: 4,
  },
  {
    name: 'ages that begin with nothing',
    currency: 'EUR',
    text: `Age→Price/m³
less than 3 months→free
3 to 6 months→15.00
more than 6 months→30.00`,
    reads: ['storage 1-12: 0', 'age 3-6: 15', 'age 6-: 30'],
    faults: ['scheduleAgeTotal'],
  },
  {
    name: 'services up to weights across, none for small ones',
    currency: 'GBP',
    text: `Delivery charges (VAT not included)

Parcel→Max size→Up to 2kg→Up to 5kg→Up to 10kg
Small→45 x 35 x 16 cm→£2.95→-→-
Medium→61 x 46 x 46 cm→£4.10→£5.75→£8.20
Large→1.5 m length→£7.80→£9.20→£12.40`,
    reads: [
      'Small ≤2: 2.95',
      'Medium ≤2: 4.1',
      'Medium ≤5: 5.75',
      'Medium ≤10: 8.2',
      'Large ≤2: 7.8',
      'Large ≤5: 9.2',
      'Large ≤10: 12.4',
      'tier Small 45×35×16',
      'tier Medium 61×46×46',
      'tier Large 150',
    ],
  },
  {
    name: 'charges in a lettered list',
    currency: 'USD',
    text: `A) Listing: $0.20 per item
B) Sale: 6.5% of the total price
C) Payment: 3% + $0.25`,
    reads: ['Sale 6.5%', 'payment 3% 0.25'],
    notUnderstood: 1,
  },
  {
    name: 'feet and inches together',
    currency: 'USD',
    text: `Class;Longest side;Weight;Fee
I;up to 1 ft 6 in;up to 10 lb;$5.00
II;up to 4 ft;up to 50 lb;$14.00`,
    reads: ['I ≤4.536: 5', 'II ≤22.68: 14', 'tier I 45.72', 'tier II 121.92'],
  },
  {
    name: 'each started kilogram, German',
    currency: 'EUR',
    text: `Gewicht;Preis
bis 1 kg;4,90 €
je angefangenes weiteres kg;0,80 €`,
    reads: ['– ≤1: 4.9', '– each 1: 0.8'],
  },
  {
    name: 'units under the headings, and a service with insurance',
    currency: 'EUR',
    text: `Tramo de peso;Tarifa estándar;Tarifa con seguro
(kg);(€);(€)
0 - 2;4,20;5,60
2 - 5;5,10;6,90`,
    reads: ['– ≤2: 4.2', '– ≤5: 5.1'],
    notUnderstood: 2,
  },
  {
    name: 'Italian percentages to and over a price',
    currency: 'EUR',
    text: `Categoria;Fino a 100 €;Oltre 100 €
Elettronica;8%;6%
Casa;15%;12%`,
    reads: ['Elettronica 8%≤100 / 6% sliced', 'Casa 15%≤100 / 12% sliced'],
    faults: ['scheduleMode'],
  },
  {
    name: 'Japanese sizes',
    currency: 'JPY',
    text: `区分→サイズ上限→重量上限→手数料
小型→25 x 18 x 2 cm→250 g→288円
標準→35 x 30 x 15 cm→2 kg→420円
大型→60 x 50 x 40 cm→9 kg→690円`,
    reads: [
      '小型 ≤0.25: 288',
      '標準 ≤2: 420',
      '大型 ≤9: 690',
      'tier 小型 25×18×2',
      'tier 標準 35×30×15',
      'tier 大型 60×50×40',
    ],
  },
  {
    name: 'zones by numbers, each additional pound',
    currency: 'USD',
    text: `Zone→1 lb→2 lb→3 lb→Each add'l lb
2→$7.10→$7.95→$8.60→$0.55
3→$7.45→$8.40→$9.20→$0.62`,
    reads: [
      '2 ≤0.454: 7.1',
      '2 ≤0.907: 7.95',
      '2 ≤1.361: 8.6',
      '2 each 0.454: 0.55',
      '3 ≤0.454: 7.45',
      '3 ≤0.907: 8.4',
      '3 ≤1.361: 9.2',
      '3 each 0.454: 0.62',
    ],
  },
  {
    name: 'a list with bullets',
    currency: 'EUR',
    text: `• up to 250 g: 2.10 EUR
• up to 500 g: 2.60 EUR
• up to 1 kg: 3.40 EUR`,
    reads: ['– ≤0.25: 2.1', '– ≤0.5: 2.6', '– ≤1: 3.4'],
  },
  {
    name: 'Polish limits in columns',
    currency: 'PLN',
    text: `Od (kg);Do (kg);Opłata
0;1;10,50
1;5;12,90
5;20;18,00`,
    reads: ['– ≤1: 10.5', '– ≤5: 12.9', '– ≤20: 18'],
  },
  {
    name: 'what storage is for beside its amounts',
    currency: 'EUR',
    text: `Lagerung→Preis
Januar bis September→25,00 € pro m³ und Monat
Oktober bis Dezember→38,00 € pro m³ und Monat`,
    reads: ['storage 1-9: 25', 'storage 10-12: 38'],
  },
  {
    name: 'codes before categories, a fixed part',
    currency: 'USD',
    text: `Code→Category→Rate→Fixed
101→Garden→12%→$0.30
102→Pets→10%→$0.30`,
    reads: ['Garden 12% item 0.3', 'Pets 10% item 0.3'],
    notUnderstood: 2,
  },
  {
    name: 'German letters, a unit in brackets below',
    currency: 'EUR',
    text: `Name→L→B→H→max kg→Preis
Mini→35→25→3→1→2,49
Midi→60→40→20→5→4,99
(Maße in cm)`,
    reads: ['Mini ≤1: 2.49', 'Midi ≤5: 4.99', 'tier Mini 35×25×3', 'tier Midi 60×40×20'],
  },
  {
    name: 'an insurance by the value beside',
    currency: 'GBP',
    text: `Weight→Handling→Insurance
up to 1 kg→£3.10→1% of value
up to 2 kg→£3.90→1% of value`,
    reads: ['– ≤1: 3.1', '– ≤2: 3.9'],
    notUnderstood: 2,
  },
  {
    name: 'quarters',
    currency: 'USD',
    text: `Period→Fee per cu ft
Q1-Q3→$0.75
Q4→$2.40`,
    reads: ['storage 1-9: 26.49', 'storage 10-12: 84.76'],
  },
  {
    name: 'codes of currency, pounds without blanks',
    currency: 'USD',
    text: `Weight→Cost
under 1lb→USD 4.20
1lb-3lb→USD 5.90
3lb+→USD 5.90 + 0.50/lb`,
    reads: ['– ≤0.454: 4.2', '– ≤1.361: 5.9', '– each 0.454: 0.5'],
  },
  {
    name: 'German fees with VAT in them',
    currency: 'EUR',
    text: `Tarif→Gewicht→Preis inkl. MwSt.
S→bis 2 kg→4,99 €
M→bis 5 kg→5,99 €`,
    reads: ['S ≤2: 4.99', 'M ≤5: 5.99'],
    faults: ['scheduleWithVat'],
  },
  {
    name: 'French slices across',
    currency: 'EUR',
    text: `Catégorie→Jusqu'à 50 €→De 50 à 200 €→Au-delà de 200 €
Maison→15 %→12 %→8 %`,
    reads: ['Maison 15%≤50 / 12%≤200 / 8% sliced'],
    faults: ['scheduleMode'],
  },
  {
    name: 'weights whose unit stands below',
    currency: 'USD',
    text: `Up to→Fee
0.5→$3.10
1→$3.60
2→$4.40
Weights in pounds.`,
    reads: ['– ≤0.227: 3.1', '– ≤0.454: 3.6', '– ≤0.907: 4.4'],
  },
  {
    name: 'a surcharge for fuel beside Italian fees',
    currency: 'EUR',
    text: `Peso→Tariffa base→Supplemento carburante
fino a 1 kg→4,10 €→0,35 €
fino a 3 kg→4,90 €→0,42 €`,
    reads: ['– ≤1: 4.1', '– ≤3: 4.9'],
    notUnderstood: 2,
  },
  {
    name: 'Japanese regions, each further kilogram',
    currency: 'JPY',
    text: `重量→本州→北海道・九州→沖縄
2kgまで→620円→740円→1,210円
5kgまで→810円→960円→1,680円
1kgごと追加→90円→110円→240円`,
    reads: [
      '本州 ≤2: 620',
      '北海道・九州 ≤2: 740',
      '沖縄 ≤2: 1210',
      '本州 ≤5: 810',
      '北海道・九州 ≤5: 960',
      '沖縄 ≤5: 1680',
      '本州 each 1: 90',
      '北海道・九州 each 1: 110',
      '沖縄 each 1: 240',
    ],
  },
  {
    name: 'Polish storage for one cubic metre',
    currency: 'PLN',
    text: `Miesiąc→Opłata za 1 m³
styczeń - wrzesień→95 zł
październik - grudzień→140 zł`,
    reads: ['storage 1-9: 95', 'storage 10-12: 140'],
  },
];

/** Of another kind than a card holds, or not to be told: marked, and part of nothing. */
export const MARKED: readonly CorpusTable[] = [
  {
    name: 'fees for taking goods back',
    currency: 'EUR',
    text: `Removal order fees
Size→Weight→Fee per unit
Standard→0 to 200 g→0.30
Standard→200 to 500 g→0.45
Standard→500 g to 1 kg→0.60`,
    reads: [],
    notUnderstood: 6,
  },
  {
    name: 'amounts by price that do not say what they are',
    currency: 'USD',
    text: `Price of item→Fee you pay
$0.01 to $9.99→$0.50
$10.00 to $49.99→$1.20
$50.00 and more→$2.50`,
    reads: [],
    notUnderstood: 6,
  },
  {
    name: 'a volume weight and a sum of sides',
    currency: 'EUR',
    text: `Tariff class→Longest side→Sum of sides→Actual weight→Volumetric weight (L×W×H / 6000)→Price
S→35 cm→60 cm→1 kg→1 kg→3.20
M→50 cm→90 cm→3 kg→4 kg→4.80
L→100 cm→150 cm→10 kg→15 kg→7.90`,
    reads: ['S ≤1: 3.2', 'M ≤3: 4.8', 'L ≤10: 7.9', 'tier S 35', 'tier M 50', 'tier L 100'],
    notUnderstood: 6,
  },
  {
    name: 'Japanese sizes by the sum of their sides',
    currency: 'JPY',
    text: `サイズ→重量→料金（税込）
60サイズ（3辺合計60cm以内）→2kgまで→¥810
80サイズ（3辺合計80cm以内）→5kgまで→¥1,030
100サイズ（3辺合計100cm以内）→10kgまで→¥1,280`,
    reads: [],
    notUnderstood: 3,
    faults: ['scheduleWithVat'],
  },
  {
    name: 'plans of an account',
    currency: 'EUR',
    text: `Plan→Monthly fee→Listing fee→Commission
Starter→0 €→0,35 €→12 %
Pro→29 €→0 €→9 %`,
    reads: [],
    notUnderstood: 6,
  },
  {
    name: 'categories across',
    currency: 'EUR',
    text: `Kategorie→Bücher→Elektronik→Mode
Provision→15 %→7 %→14 %
Mindestprovision→0,30 €→0,30 €→0,50 €`,
    reads: [],
    notUnderstood: 6,
  },
  {
    name: 'a list price and a discount',
    currency: 'EUR',
    text: `Weight→List price→Discount→Your price
up to 1 kg→5.00→20%→4.00
up to 2 kg→6.00→20%→4.80`,
    reads: ['List price ≤1: 5', 'Your price ≤1: 4', 'List price ≤2: 6', 'Your price ≤2: 4.8'],
    notUnderstood: 2,
  },
  {
    name: 'limits under blank headings',
    currency: 'JPY',
    text: `重量(g)→以上→未満→料金
→0→500→420円
→500→1000→510円
→1000→2000→690円`,
    reads: ['–: 420', '–: 510', '–: 690'],
    notUnderstood: 6,
    faults: ['scheduleSame'],
  },
  {
    name: 'a fee for each hundred grams inside of each band',
    currency: 'EUR',
    text: `Weight class→Base fee→Per 100 g
0–500 g→1.20→0.00
500 g–2 kg→1.20→0.14`,
    reads: ['– ≤0.5: 1.2', '– each 0.1: 0', '– ≤2: 1.2'],
    faults: ['scheduleStepFrom', 'scheduleEachInside'],
  },
  {
    name: 'amounts by category and price',
    currency: 'EUR',
    text: `Fee per item sold, by category and price
Category;under 10 €;10 to 100 €;over 100 €
Toys;0,90 €;1,80 €;3,20 €
Home;1,10 €;2,00 €;3,60 €`,
    reads: [],
    notUnderstood: 6,
  },
  {
    name: 'a surcharge by weeks',
    currency: 'USD',
    text: `Storage utilization ratio→Surcharge per cubic foot
22–28 weeks→$0.25
28–32 weeks→$0.55`,
    reads: [],
    notUnderstood: 4,
  },
  {
    name: 'a language that is not read: a word that nobody knows',
    currency: 'EUR',
    text: `Gewicht→Prijs
tot 2 kg→€ 4,25
2-10 kg→€ 7,25
10-23 kg→€ 14,50`,
    reads: ['– ≤2: 4.25', '– ≤10: 7.25', '– ≤23: 14.5'],
    doubtful: 1,
  },
  {
    name: 'numbers of rows',
    currency: 'EUR',
    text: `No.→Weight from→Weight to→Fee
1→0 kg→1 kg→3.20
2→1 kg→2 kg→3.60
3→2 kg→5 kg→4.40`,
    reads: ['– ≤1: 3.2', '– ≤2: 3.6', '– ≤5: 4.4'],
    notUnderstood: 3,
  },
  {
    name: 'a list of services of several kinds',
    currency: 'EUR',
    text: `Service→Price
Pick and pack→1.20 per unit
Postage up to 1 kg→3.10
Postage up to 2 kg→3.90
Storage→12.00 per m³ per month`,
    reads: [],
    notUnderstood: 8,
  },
  {
    name: 'commissions by what is sold in a month',
    currency: 'EUR',
    text: `Monthly sales→Commission
0 – 1,000 €→12%
1,000 – 10,000 €→10%
over 10,000 €→8%`,
    reads: [],
    notUnderstood: 3,
  },
  {
    name: 'prices by how many are sent',
    currency: 'EUR',
    text: `Volume per month | up to 1 kg | up to 3 kg
1–50 parcels | 5.20 | 6.10
51–200 parcels | 4.80 | 5.60`,
    reads: [],
    notUnderstood: 2,
  },
  {
    name: 'a limit of slices in a column of its own',
    currency: 'EUR',
    text: `Kategorie;Provision bis Schwellenwert;Schwellenwert;Provision darüber
Möbel;15 %;200 €;10 %
Uhren;15 %;250 €;5 %`,
    reads: ['Möbel 15%', 'Uhren 15%'],
    notUnderstood: 4,
  },
  {
    name: 'ways to pay',
    currency: 'EUR',
    text: `Payment method→Fee
Card→1.9% + €0.30
Wallet→2.9% + €0.35`,
    reads: [],
    notUnderstood: 2,
  },
  {
    name: 'a share if the price is under a limit, Italian',
    currency: 'EUR',
    text: `"Categoria";"Commissione";"Commissione minima"
"Abbigliamento";"15%, 7% se il prezzo è inferiore a 15 €";"0,30 €"
"Libri";"15% + 1,01 €";"-"`,
    reads: ['Libri 15% item 1.01'],
    notUnderstood: 2,
  },
  {
    name: 'a price a kilogram with a least charge',
    currency: 'EUR',
    text: `Weight→Rate per kg
up to 45 kg→4.20
45 to 100 kg→3.60
over 100 kg→2.90
Minimum charge→60.00`,
    reads: ['– each 1: 4.2', '– each 1: 3.6', '– each 1: 2.9'],
    notUnderstood: 4,
    faults: ['scheduleEachInside'],
  },
  {
    name: 'a commission for some sellers',
    currency: 'EUR',
    text: `Kategorie→Standardprovision→Provision für neue Verkäufer
Garten→13 %→10 %
Spielzeug→15 %→12 %`,
    reads: ['Garten 13%', 'Spielzeug 15%'],
    notUnderstood: 2,
  },
  {
    name: 'fees by volume',
    currency: 'EUR',
    text: `Volume→Fee per item
up to 1 dm³→1.80
up to 5 dm³→2.60
up to 20 dm³→4.90`,
    reads: [],
    notUnderstood: 3,
  },
  {
    name: 'a first item and each further',
    currency: 'USD',
    text: `Weight→First item→Each additional item
up to 1 lb→$4.00→$1.50
up to 2 lb→$4.80→$1.90`,
    reads: ['– ≤0.454: 4', '– ≤0.907: 4.8'],
    notUnderstood: 2,
  },
  {
    name: 'a sentence alone',
    currency: 'GBP',
    text: `We charge 12.5% commission on each sale, with a minimum of £0.25.`,
    reads: [],
    faults: ['scheduleNoTable'],
  },
  {
    name: 'a column in another currency',
    currency: 'EUR',
    text: `Weight→EUR→GBP
up to 1 kg→3.20→2.80
up to 2 kg→3.90→3.40`,
    reads: ['– ≤1: 3.2', '– ≤2: 3.9'],
    notUnderstood: 2,
  },
  {
    name: 'Spanish months and amounts in one cell',
    currency: 'EUR',
    text: `Tarifa de almacenamiento: enero a septiembre 26,00 € por metro cúbico
Tarifa de almacenamiento: octubre a diciembre 36,00 € por metro cúbico`,
    reads: [],
    notUnderstood: 2,
  },
  {
    name: 'a fee for each pound inside of each band',
    currency: 'USD',
    text: `Class→Min weight→Max weight→Base→Per lb
A→0→1 lb→$3.00→–
B→1 lb→10 lb→$3.00→$0.50
C→10 lb→50 lb→$7.50→$0.45`,
    reads: ['A ≤0.454: 3', 'B ≤4.536: 3', 'C ≤22.68: 7.5'],
    faults: ['scheduleStepFrom', 'scheduleStepFrom'],
  },
  {
    name: 'ages with a fee a unit',
    currency: 'EUR',
    text: `Days in storage→Fee per unit
181-270→0.10
271-365→0.25
366+→0.60`,
    reads: [],
    notUnderstood: 6,
    faults: ['scheduleVolume', 'scheduleVolume', 'scheduleVolume'],
  },
  {
    name: 'prices that begin at an amount',
    currency: 'EUR',
    text: `Paketgröße | Maximale Maße (L x B x H) | max. Gewicht | Preis (ohne MwSt.)
XS | 35 x 25 x 5 cm | 2 kg | ab 3,20 €
S | 50 x 35 x 15 cm | 5 kg | ab 4,60 €
M | 60 x 40 x 40 cm | 10 kg | ab 6,90 €`,
    reads: ['tier XS 35×25×5 ≤2', 'tier S 50×35×15 ≤5', 'tier M 60×40×40 ≤10'],
    notUnderstood: 3,
  },
  {
    name: 'a language that is not read: what a range is called',
    currency: 'SEK',
    text: `Vikt→Pris
upp till 1 kg→49 kr
upp till 3 kg→69 kr
upp till 5 kg→89 kr`,
    reads: ['– ≤1: 49', '– ≤3: 69', '– ≤5: 89'],
    doubtful: 3,
  },
  {
    name: 'a price a kilogram, by bands',
    currency: 'EUR',
    text: `From kg→To kg→Price per kg
0→10→2.40
10→30→1.95
30→100→1.60`,
    reads: ['– each 1: 2.4', '– each 1: 1.95', '– each 1: 1.6'],
    notUnderstood: 6,
    faults: ['scheduleEachInside'],
  },
  {
    name: 'two currencies in one cell',
    currency: 'EUR',
    text: `Weight→Fee
up to 1 kg→€3.20 / £2.80
up to 2 kg→€3.90 / £3.40`,
    reads: [],
    notUnderstood: 2,
  },
  {
    name: 'what a return costs, beside commissions',
    currency: 'EUR',
    text: `Category→Commission→Refund admin fee
Toys→15%→20% of commission, max 5.00
Home→13%→20% of commission, max 5.00`,
    reads: ['Toys 15%', 'Home 13%'],
    notUnderstood: 2,
  },
  {
    name: 'prices by how many are sold',
    currency: 'EUR',
    text: `Units per month→Pick fee
1-500→1.20
501-2000→1.05
2001+→0.90`,
    reads: [],
    notUnderstood: 3,
  },
  {
    name: 'sizes across, what they measure down',
    currency: 'EUR',
    text: `→Small→Medium→Large
Max. dimensions→30 x 20 x 5 cm→45 x 35 x 20 cm→60 x 45 x 45 cm
Max. weight→1 kg→5 kg→20 kg
Fee→2.40→3.90→6.80`,
    reads: [],
    notUnderstood: 9,
  },
  {
    name: 'a price for a hundred',
    currency: 'EUR',
    text: `Size→Weight→Price per 100 units
S→up to 1 kg→250.00
M→up to 5 kg→390.00`,
    reads: [],
    notUnderstood: 4,
  },
  {
    name: 'weights in words',
    currency: 'EUR',
    text: `Poids→Prix
un demi-kilo→4,20 €
un kilo→5,10 €
deux kilos→6,30 €`,
    reads: [],
    notUnderstood: 3,
  },
  {
    name: 'weights over fees without a first column',
    currency: 'EUR',
    text: `up to 500 g→up to 1 kg→up to 2 kg
2.90→3.40→4.10`,
    reads: [],
    notUnderstood: 6,
  },
  {
    name: 'sizes by numbers and a sum of sides',
    currency: 'EUR',
    text: `Size→Max L+W+H→Max weight→Price
60→60 cm→2 kg→6.10
80→80 cm→5 kg→7.30`,
    reads: ['60 ≤2: 6.1', '80 ≤5: 7.3'],
    notUnderstood: 2,
  },
  {
    name: 'fees by weight that change with the season',
    currency: 'USD',
    text: `Size→Weight→Jan–Sep→Oct–Dec
Small→6 oz→$2.40→$2.60
Small→12 oz→$2.70→$2.95`,
    reads: [],
    notUnderstood: 6,
  },
  {
    name: 'German text whose columns run into each other',
    currency: 'EUR',
    text: `Warengruppe            Provision    Mindestprovision
Auto & Motorrad        11,5 %       0,50 €
Baumarkt               13 %         0,50 €
Drogerie               8 % bis 10 €, sonst 15 %   0,30 €`,
    reads: [],
    notUnderstood: 3,
  },
  {
    name: 'what a percentage is applied to',
    currency: 'USD',
    text: `Individual item fees

Product type→Fee rate→Applied to
Appliances→8%→Total sale price
Bicycles→15%→Total sale price
Gift sets→15%→Total sale price`,
    reads: ['Appliances 8%', 'Bicycles 15%', 'Gift sets 15%'],
    notUnderstood: 3,
  },
  {
    name: 'sizes and weights in one sentence each',
    currency: 'GBP',
    text: `Size→What fits→Price
Letter→up to 24 x 16.5 x 0.5 cm and 100 g→£1.25
Large letter→up to 35.3 x 25 x 2.5 cm and 750 g→£2.10
Small parcel→up to 45 x 35 x 16 cm and 2 kg→£3.95`,
    reads: ['Letter: 1.25', 'Large letter: 2.1', 'Small parcel: 3.95'],
    notUnderstood: 3,
  },
  {
    name: 'a first kilogram in Spanish whose column is not understood',
    currency: 'EUR',
    text: `Tamaño→Primer kg→Kg adicional→Peso máximo
Estándar→3,20 €→0,45 €→12 kg
Voluminoso→6,80 €→0,60 €→30 kg`,
    reads: ['Estándar each 1: 0.45', 'Voluminoso each 1: 0.6'],
    notUnderstood: 4,
  },
  {
    name: 'prices down, sizes across',
    currency: 'USD',
    text: `→Small→Large
Items up to $10→$2.10→$4.00
Items over $10→$2.90→$5.20`,
    reads: [],
    notUnderstood: 4,
  },
  {
    name: 'headings of a program',
    currency: 'EUR',
    text: `tier,max_weight_g,max_l_cm,max_w_cm,max_h_cm,fee_eur
S,500,35,25,5,2.20
M,2000,45,35,20,3.60`,
    reads: [],
    notUnderstood: 6,
  },
  {
    name: 'fees in the names of lines',
    currency: 'USD',
    text: `Fee for Small items: $2.50 per unit
Fee for Large items: $4.75 per unit
Fee for Oversize items: $9.20 per unit`,
    reads: [],
    notUnderstood: 3,
  },
];
