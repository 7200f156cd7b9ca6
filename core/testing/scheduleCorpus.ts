/**
 * Fee tables as people have them: invented marketplaces and carriers, in many layouts, languages and units,
 * each with what a person reads in it. `→` stands for a tab. Weights in kg to the gram, sides in cm, storage a
 * m3 to the cent. It is data, table after table, in one file so that a new one is held beside those there are.
 */
export type CorpusTable = {
  readonly name: string;
  readonly currency: string;
  readonly text: string;
  /** What a card gets of it, a line each: `testing/brief.ts` says how it is written. */
  readonly reads: readonly string[];
  readonly doubtful?: number;
  readonly notUnderstood?: number;
  readonly faults?: readonly string[];
};

const WEIGHTS_LONG: readonly CorpusTable[] = [
  {
    name: 'aligned text of a PDF, tiers named once, a wrapped cell, sizes in sentences',
    currency: 'USD',
    text: `What we charge to send a parcel

Kind       up to     a piece
Slim       5 oz      $2.07
           12 oz     $2.61
Carton     12 oz     $3.94
           4 lb      $5.26
           24 lb     $5.26 and $0.31 for
                     each 12 oz over 4 lb
Freight    heavier   ask us

Slim: 16 x 11 x 1 in at most.
Carton: 20 x 15 x 9 in at most.`,
    reads: [
      'Slim ≤0.142: 2.07',
      'Slim ≤0.34: 2.61',
      'Carton ≤0.34: 3.94',
      'Carton ≤1.814: 5.26',
      'Carton each 0.34: 0.31',
      'tier Slim 40.64×27.94×2.54',
      'tier Carton 50.8×38.1×22.86 ≤10.886',
    ],
  },
  {
    name: 'semicolons, German, sizes beside weights',
    currency: 'EUR',
    text: `Größenklasse;Maße;Gewicht;Gebühr
Umschlag klein;20 x 15 x 1 cm;bis 80 g;1,86 €
;;bis 210 g;2,04 €
Paket;45 x 34 x 26 cm;bis 400 g;3,51 €
;;jede weiteren 500 g;0,25 €`,
    reads: [
      'Umschlag klein ≤0.08: 1.86',
      'Umschlag klein ≤0.21: 2.04',
      'Paket ≤0.4: 3.51',
      'Paket each 0.5: 0.25',
      'tier Umschlag klein 20×15×1',
      'tier Paket 45×34×26',
    ],
  },
  {
    name: 'tabs, English, over and up to in one cell',
    currency: 'GBP',
    text: `Size tier→Weight→Fee
Small→up to 0.5 kg→£2.10
Small→over 0.5 to 1 kg→£2.55
Large→up to 1 kg→£3.40
Large→over 1 to 2 kg→£3.95`,
    reads: ['Small ≤0.5: 2.1', 'Small ≤1: 2.55', 'Large ≤1: 3.4', 'Large ≤2: 3.95'],
  },
  {
    name: 'from and to in columns of their own',
    currency: 'EUR',
    text: `Format→From (kg)→To (kg)→Fee (EUR)
Box→0→0.5→3.10
Box→0.5→1→3.60
Box→1→2→4.20`,
    reads: ['Box ≤0.5: 3.1', 'Box ≤1: 3.6', 'Box ≤2: 4.2'],
  },
  {
    name: 'bare numbers under a heading with the unit',
    currency: 'USD',
    text: `Tier,Weight (lb),Fee
Standard,1,3.20
Standard,2,3.85
Standard,3,4.40`,
    reads: ['Standard ≤0.454: 3.2', 'Standard ≤0.907: 3.85', 'Standard ≤1.361: 4.4'],
  },
  {
    name: 'French, decimal comma, the currency behind',
    currency: 'EUR',
    text: `Taille→Poids→Tarif
Enveloppe→jusqu'à 100 g→2,15 €
Enveloppe→jusqu'à 250 g→2,38 €
Colis→jusqu'à 1 kg→4,72 €
Colis→par 500 g supplémentaires→0,41 €`,
    reads: ['Enveloppe ≤0.1: 2.15', 'Enveloppe ≤0.25: 2.38', 'Colis ≤1: 4.72', 'Colis each 0.5: 0.41'],
  },
  {
    name: 'Spanish',
    currency: 'EUR',
    text: `Tamaño→Peso→Tarifa
Sobre→hasta 100 g→2,05 €
Paquete→hasta 400 g→3,12 €
Paquete→hasta 1 kg→3,87 €
Paquete→cada 500 g adicionales→0,35 €`,
    reads: ['Sobre ≤0.1: 2.05', 'Paquete ≤0.4: 3.12', 'Paquete ≤1: 3.87', 'Paquete each 0.5: 0.35'],
  },
  {
    name: 'Italian',
    currency: 'EUR',
    text: `Formato→Peso→Tariffa
Busta→fino a 100 g→2,11 €
Pacco→fino a 1 kg→3,98 €
Pacco→ogni ulteriore 0,5 kg→0,33 €`,
    reads: ['Busta ≤0.1: 2.11', 'Pacco ≤1: 3.98', 'Pacco each 0.5: 0.33'],
  },
  {
    name: 'Polish',
    currency: 'PLN',
    text: `Rozmiar→Waga→Opłata
Koperta→do 100 g→7,20 zł
Paczka→do 1 kg→12,40 zł
Paczka→każde kolejne 0,5 kg→1,15 zł`,
    reads: ['Koperta ≤0.1: 7.2', 'Paczka ≤1: 12.4', 'Paczka each 0.5: 1.15'],
  },
  {
    name: 'Japanese, full-width digits, no minor unit',
    currency: 'JPY',
    text: `サイズ区分→重量→料金
小型→２５０ｇまで→¥288
標準→1kgまで→¥421
標準→2kgまで→¥512
標準→1kg追加ごと→¥36`,
    reads: ['小型 ≤0.25: 288', '標準 ≤1: 421', '標準 ≤2: 512', '標準 each 1: 36'],
  },
  {
    name: 'a table of a wiki, with rules of dashes',
    currency: 'USD',
    text: `| Tier | Weight | Fee |
|------|--------|----:|
| Small | 6 oz | $2.40 |
| Small | 12 oz | $2.72 |
| Big | 1 lb | $4.10 |`,
    reads: ['Small ≤0.17: 2.4', 'Small ≤0.34: 2.72', 'Big ≤0.454: 4.1'],
  },
  {
    name: 'the first so much, and each further',
    currency: 'EUR',
    text: `Weight→Charge
first 0.25 kg→1.90
each additional 0.5 kg or part→0.16`,
    reads: ['– ≤0.25: 1.9', '– each 0.5: 0.16'],
  },
  {
    name: 'ranges with a dash, kilograms and grams mixed',
    currency: 'EUR',
    text: `Weight→Fee EUR
0–250 g→2.10
250–500 g→2.40
0.5–1 kg→2.95
1–2 kg→3.60`,
    reads: ['– ≤0.25: 2.1', '– ≤0.5: 2.4', '– ≤1: 2.95', '– ≤2: 3.6'],
  },
  {
    name: 'signs for limits',
    currency: 'EUR',
    text: `Class→Weight→Fee
S→≤ 150 g→2.00
S→≤ 400 g→2.35
M→≤ 1 kg→3.10`,
    reads: ['S ≤0.15: 2', 'S ≤0.4: 2.35', 'M ≤1: 3.1'],
  },
  {
    name: 'apostrophes for thousands, grams',
    currency: 'CHF',
    text: `Format→Gewicht→Gebühr CHF
Klein→bis 500 g→6.20
Klein→bis 1'000 g→7.10
Gross→bis 10'000 g→12.90`,
    reads: ['Klein ≤0.5: 6.2', 'Klein ≤1: 7.1', 'Gross ≤10: 12.9'],
  },
  {
    name: 'footnotes behind figures, and what is not offered',
    currency: 'USD',
    text: `Tier→Weight→Fee
Small→8 oz→$2.50¹
Small→16 oz→$2.95*
Large→5 lb→$5.80
Oversize→any→n/a

¹ Textiles cost 0.30 more.`,
    reads: ['Small ≤0.227: 2.5', 'Small ≤0.454: 2.95', 'Large ≤2.268: 5.8'],
  },
  {
    name: 'a total row, which is no step',
    currency: 'EUR',
    text: `Klasse;Gewicht;Gebühr
A;bis 1 kg;3,00
A;bis 2 kg;3,50
Summe;;6,50`,
    reads: ['A ≤1: 3', 'A ≤2: 3.5'],
  },
  {
    name: 'so much a kg past a limit, in the fee',
    currency: 'EUR',
    text: `Tier→Weight→Fee
Parcel→up to 5 kg→4.80
Parcel→over 5 kg→4.80 + 0.60 per kg over 5 kg`,
    reads: ['Parcel ≤5: 4.8', 'Parcel each 1: 0.6'],
  },
  {
    name: 'codes of currency before the amount',
    currency: 'PLN',
    text: `Tier→Weight→Fee
Parcel→up to 5 kg→PLN 14.80
Parcel→up to 10 kg→PLN 18.20`,
    reads: ['Parcel ≤5: 14.8', 'Parcel ≤10: 18.2'],
  },
];

const ACROSS: readonly CorpusTable[] = [
  {
    name: 'zones across, weights down, a carrier',
    currency: 'EUR',
    text: `Weight→Zone A→Zone B→Zone C
up to 0.5 kg→3.49→4.99→7.99
over 0.5 to 1 kg→3.99→5.49→8.99
each additional 0.5 kg or part→0.40→0.60→1.10`,
    reads: [
      'Zone A ≤0.5: 3.49',
      'Zone B ≤0.5: 4.99',
      'Zone C ≤0.5: 7.99',
      'Zone A ≤1: 3.99',
      'Zone B ≤1: 5.49',
      'Zone C ≤1: 8.99',
      'Zone A each 0.5: 0.4',
      'Zone B each 0.5: 0.6',
      'Zone C each 0.5: 1.1',
    ],
  },
  {
    name: 'weights across, tiers down',
    currency: 'USD',
    text: `Tier→up to 1 lb→up to 2 lb→up to 5 lb
Small→$2.90→$3.30→–
Large→$4.10→$4.60→$6.20`,
    reads: [
      'Small ≤0.454: 2.9',
      'Small ≤0.907: 3.3',
      'Large ≤0.454: 4.1',
      'Large ≤0.907: 4.6',
      'Large ≤2.268: 6.2',
    ],
  },
  {
    name: 'tiers across, weights down, German, two lines of headings',
    currency: 'EUR',
    text: `Gewicht;Gebühr je Größenklasse;
;Klein;Groß
bis 500 g;2,20;3,10
bis 1 kg;2,60;3,55`,
    reads: ['Klein ≤0.5: 2.2', 'Groß ≤0.5: 3.1', 'Klein ≤1: 2.6', 'Groß ≤1: 3.55'],
  },
  {
    name: 'price bands across',
    currency: 'USD',
    text: `Tier→Weight→Price under $10→$10 to $50→over $50
Small→up to 8 oz→$2.00→$2.60→$2.90
Small→up to 1 lb→$2.30→$2.95→$3.20`,
    reads: [
      'Small ≤0.227 price≤10: 2',
      'Small ≤0.227 price≤50: 2.6',
      'Small ≤0.227: 2.9',
      'Small ≤0.454 price≤10: 2.3',
      'Small ≤0.454 price≤50: 2.95',
      'Small ≤0.454: 3.2',
    ],
  },
  {
    name: 'Japanese regions across',
    currency: 'JPY',
    text: `重量→関東→関西
1kgまで→¥600→¥700
2kgまで→¥800→¥1,000`,
    reads: ['関東 ≤1: 600', '関西 ≤1: 700', '関東 ≤2: 800', '関西 ≤2: 1000'],
  },
  {
    name: 'French zones, semicolons',
    currency: 'EUR',
    text: `Poids;Zone 1;Zone 2
jusqu'à 500 g;4,20;6,80
jusqu'à 1 kg;5,10;8,30`,
    reads: ['Zone 1 ≤0.5: 4.2', 'Zone 2 ≤0.5: 6.8', 'Zone 1 ≤1: 5.1', 'Zone 2 ≤1: 8.3'],
  },
  {
    name: 'aligned text, zones across',
    currency: 'GBP',
    text: `Weight          Home     Islands
up to 1 kg      £3.20    £6.40
up to 2 kg      £3.80    £7.10
up to 5 kg      £5.00    £9.90`,
    reads: [
      'Home ≤1: 3.2',
      'Islands ≤1: 6.4',
      'Home ≤2: 3.8',
      'Islands ≤2: 7.1',
      'Home ≤5: 5',
      'Islands ≤5: 9.9',
    ],
  },
  {
    name: 'Polish zones, one not offered',
    currency: 'PLN',
    text: `Waga→Kraj→Europa
do 1 kg→12,90→38,50
do 5 kg→15,90→brak`,
    reads: ['Kraj ≤1: 12.9', 'Europa ≤1: 38.5', 'Kraj ≤5: 15.9'],
  },
];

const TIERS: readonly CorpusTable[] = [
  {
    name: 'limits of sizes, imperial',
    currency: 'USD',
    text: `Size tier→Maximum dimensions→Maximum weight
Small→15 x 12 x 0.75 in→1 lb
Large→18 x 14 x 8 in→20 lb`,
    reads: ['tier Small 38.1×30.48×1.91 ≤0.454', 'tier Large 45.72×35.56×20.32 ≤9.072'],
  },
  {
    name: 'sides in columns of their own',
    currency: 'EUR',
    text: `Tier→Length (cm)→Width (cm)→Height (cm)→Weight (kg)
Letter→33→23→2.5→0.46
Parcel→45→34→26→12`,
    reads: ['tier Letter 33×23×2.5 ≤0.46', 'tier Parcel 45×34×26 ≤12'],
  },
  {
    name: 'millimetres, German',
    currency: 'EUR',
    text: `Klasse;Abmessungen;Höchstgewicht
Brief;330 x 230 x 25 mm;460 g
Paket;450 x 340 x 260 mm;12 kg`,
    reads: ['tier Brief 33×23×2.5 ≤0.46', 'tier Paket 45×34×26 ≤12'],
  },
  {
    name: 'girth, and volume that counts as weight',
    currency: 'USD',
    text: `Tier→Dimensions→Girth (in)→Weight
Bulky→108 x 40 x 40 in→165→50 lb
Huge→any→any→150 lb

Weight is the greater of the scale and length x width x height / 139.`,
    reads: ['tier Bulky 274.32×101.6×101.6 girth 419.1 ≤22.68 div 5021.69', 'tier Huge ≤68.039 div 5021.69'],
  },
  {
    name: 'each side with its unit, French',
    currency: 'EUR',
    text: `Format→Dimensions→Poids maximum
Enveloppe→33 cm x 23 cm x 2,5 cm→460 g
Colis→61 cm × 46 cm × 46 cm→26 kg`,
    reads: ['tier Enveloppe 33×23×2.5 ≤0.46', 'tier Colis 61×46×46 ≤26'],
  },
  {
    name: 'inches as marks, halves',
    currency: 'USD',
    text: `Tier→Dimensions→Weight
Flat→15" x 10½" x ½"→12 oz
Box→20" x 15" x 9"→4 lb`,
    reads: ['tier Flat 38.1×26.67×1.27 ≤0.34', 'tier Box 50.8×38.1×22.86 ≤1.814'],
  },
  {
    name: 'Italian, divisor as a column',
    currency: 'EUR',
    text: `Formato→Dimensioni→Peso→Divisore
Busta→33 x 23 x 2,5 cm→460 g→5000
Pacco→61 x 46 x 46 cm→26 kg→5000`,
    reads: ['tier Busta 33×23×2.5 ≤0.46 div 5000', 'tier Pacco 61×46×46 ≤26 div 5000'],
  },
];

const REFERRAL: readonly CorpusTable[] = [
  {
    name: 'one percentage each',
    currency: 'EUR',
    text: `Category→Referral fee→Minimum fee
Garden→15%→€0.30
Books→12 %→€0.30
Toys→8%→–`,
    reads: ['Garden 15% min 0.3', 'Books 12% min 0.3', 'Toys 8%'],
  },
  {
    name: 'slices in a cell',
    currency: 'EUR',
    text: `Category→Commission
Garden→15 % up to 100.00, 8 % of the rest, minimum 0.30
Books→12%`,
    reads: ['Garden 15%≤100 / 8% sliced min 0.3', 'Books 12%'],
  },
  {
    name: 'by the whole price, in words',
    currency: 'USD',
    text: `Category→Selling fee
Grocery→8% for items priced up to $15, 15% for items priced above $15
Shoes→15%`,
    reads: ['Grocery 8%≤15 / 15% whole', 'Shoes 15%'],
  },
  {
    name: 'whole or slices is not said',
    currency: 'EUR',
    text: `Kategorie;Provision
Uhren;15 % bis 250 €, 5 % über 250 €
Bücher;15 %`,
    reads: ['Uhren 15%≤250 / 5% sliced', 'Bücher 15%'],
    doubtful: 1,
  },
  {
    name: 'German slices, least fee as a column',
    currency: 'EUR',
    text: `Kategorie;Verkaufsprovision;Mindestgebühr
Möbel;15 % bis 200,00 €, 10 % auf den Teil darüber hinaus;0,30 €
Elektronik;7 %;0,30 €`,
    reads: ['Möbel 15%≤200 / 10% sliced min 0.3', 'Elektronik 7% min 0.3'],
  },
  {
    name: 'French, per cent in words',
    currency: 'EUR',
    text: `Catégorie→Commission→Frais minimum
Jardin→15 pour cent→0,30 €
Livres→12 pour cent→0,30 €`,
    reads: ['Jardin 15% min 0.3', 'Livres 12% min 0.3'],
  },
  {
    name: 'Spanish, decimals in percentages',
    currency: 'EUR',
    text: `Categoría→Comisión→Mínimo
Hogar→15,45 %→0,30 €
Ropa→5,15 %→0,30 €`,
    reads: ['Hogar 15.45% min 0.3', 'Ropa 5.15% min 0.3'],
  },
  {
    name: 'Italian slices',
    currency: 'EUR',
    text: `Categoria→Commissione
Gioielli→20 % fino a 250 €, 5 % sulla parte eccedente
Casa→15 %`,
    reads: ['Gioielli 20%≤250 / 5% sliced', 'Casa 15%'],
  },
  {
    name: 'Polish, bare percentages under a heading',
    currency: 'PLN',
    text: `Kategoria→Prowizja (%)→Opłata minimalna
Dom→12→1,00 zł
Książki→8→1,00 zł`,
    reads: ['Dom 12% min 1', 'Książki 8% min 1'],
  },
  {
    name: 'Japanese',
    currency: 'JPY',
    text: `カテゴリー→販売手数料→最低手数料
ホーム→15％→¥30
本→10％→¥30`,
    reads: ['ホーム 15% min 30', '本 10% min 30'],
  },
  {
    name: 'an item fee beside',
    currency: 'USD',
    text: `Category,Referral fee,Item fee
Music,15%,$1.80
Garden,15%,$0.00`,
    reads: ['Music 15% item 1.8', 'Garden 15% item 0'],
  },
  {
    name: 'three slices',
    currency: 'USD',
    text: `Category→Fee
Jewellery→20% up to $250, 10% of the portion up to $1,000, 5% of the rest
Art→15%`,
    reads: ['Jewellery 20%≤250 / 10%≤1000 / 5% sliced', 'Art 15%'],
  },
  {
    name: 'least and most in the cell',
    currency: 'EUR',
    text: `Category→Referral fee
Machines→12%, minimum 1.00, maximum 25.00
Tools→12%`,
    reads: ['Machines 12% min 1 max 25', 'Tools 12%'],
  },
  {
    name: 'aligned text, the least fee in a sentence',
    currency: 'GBP',
    text: `Category          Referral fee
Garden            15%
Home and kitchen  15%
Computers         7%

Minimum referral fee: £0.25 per item.`,
    reads: ['Garden 15% min 0.25', 'Home and kitchen 15% min 0.25', 'Computers 7% min 0.25'],
  },
  {
    name: 'limit said before the percentage',
    currency: 'EUR',
    text: `Category→Commission
Baby→up to 10.00: 8 %, rest: 15 %
Beauty→15 %`,
    reads: ['Baby 8%≤10 / 15% sliced', 'Beauty 15%'],
  },
];

const STORAGE: readonly CorpusTable[] = [
  {
    name: 'two seasons, cubic feet',
    currency: 'USD',
    text: `Monthly storage per cubic foot

Month→Fee
January – September→$0.78
October – December→$2.40`,
    reads: ['storage 1-9: 27.55', 'storage 10-12: 84.76'],
  },
  {
    name: 'seasons across, cubic metres',
    currency: 'EUR',
    text: `Storage per m³→January to September→October to December
All goods→26.00→36.00`,
    reads: ['storage 1-9: 26', 'storage 10-12: 36'],
  },
  {
    name: 'German months, comma',
    currency: 'EUR',
    text: `Lagergebühr je Kubikmeter

Zeitraum;Gebühr
Januar bis September;27,54 €
Oktober bis Dezember;42,37 €`,
    reads: ['storage 1-9: 27.54', 'storage 10-12: 42.37'],
  },
  {
    name: 'French',
    currency: 'EUR',
    text: `Stockage mensuel par mètre cube

Période→Tarif
janvier à septembre→26,00 €
octobre à décembre→36,00 €`,
    reads: ['storage 1-9: 26', 'storage 10-12: 36'],
  },
  {
    name: 'Spanish storage',
    currency: 'EUR',
    text: `Almacenamiento mensual por metro cúbico

Periodo→Tarifa
enero – septiembre→26,00 €
octubre – diciembre→36,00 €`,
    reads: ['storage 1-9: 26', 'storage 10-12: 36'],
  },
  {
    name: 'Italian',
    currency: 'EUR',
    text: `Stoccaggio per metro cubo

Periodo→Tariffa
gennaio – settembre→26,00 €
ottobre – dicembre→36,00 €`,
    reads: ['storage 1-9: 26', 'storage 10-12: 36'],
  },
  {
    name: 'each month a row',
    currency: 'EUR',
    text: `Month→Storage per cubic metre
Jan→20
Feb→20
Mar→21
Dec→30`,
    reads: ['storage 1: 20', 'storage 2: 20', 'storage 3: 21', 'storage 12: 30'],
  },
  {
    name: 'long stay by age in days',
    currency: 'EUR',
    text: `Long stay surcharge per cubic metre

Age in days→Charge
181–270 days→20.00
271–365 days→50.00
over 365 days→150.00`,
    reads: ['age 5.91-8.87: 20', 'age 8.87-12: 50', 'age 12-: 150'],
    faults: ['scheduleAgeAdds'],
  },
];

const OTHERS: readonly CorpusTable[] = [
  {
    name: 'a spreadsheet with a title and blank columns',
    currency: 'EUR',
    text: `Fulfilment fees 2027→→→
→→→
Tier→Weight→→Fee
Small→up to 1 kg→→2.50
Large→up to 5 kg→→4.75`,
    reads: ['Small ≤1: 2.5', 'Large ≤5: 4.75'],
  },
  {
    name: 'two tables in one paste',
    currency: 'EUR',
    text: `Category→Referral fee
Garden→15%
Books→12%

Tier→Weight→Fee
Small→up to 1 kg→2.50
Small→up to 2 kg→2.90`,
    reads: ['Small ≤1: 2.5', 'Small ≤2: 2.9', 'Garden 15%', 'Books 12%'],
  },
  {
    name: 'a fee by tier alone',
    currency: 'EUR',
    text: `Tier→Dimensions→Fee
Small→20 x 15 x 5 cm→2.10
Medium→40 x 30 x 20 cm→3.90`,
    reads: ['Small: 2.1', 'Medium: 3.9', 'tier Small 20×15×5', 'tier Medium 40×30×20'],
  },
  {
    name: 'free of charge',
    currency: 'EUR',
    text: `Gewicht;Entgelt
bis 100 g;kostenlos
bis 1 kg;1,90 €`,
    reads: ['– ≤0.1: 0', '– ≤1: 1.9'],
  },
  {
    name: 'thousands and decimals of one kind in a table, another number undecided',
    currency: 'EUR',
    text: `Weight→Fee
up to 5 kg→4,80
up to 30 kg→12,50
up to 1.000 kg→310,00`,
    reads: ['– ≤5: 4.8', '– ≤30: 12.5', '– ≤1000: 310'],
  },
  {
    name: 'what could be grams or kilograms by its mark stays a question',
    currency: 'EUR',
    text: `Weight→Fee EUR
up to 500 g→3
up to 1.500 g→5`,
    reads: ['– ≤0.5: 3', '– ≤1.5: 5'],
    doubtful: 1,
  },
  {
    name: 'right-to-left marks and Arabic digits',
    currency: 'AED',
    text: `Tier→Weight→Fee
\u200fSmall\u200f→up to ١ kg→AED ٨٫٥٠
Large→up to 5 kg→AED 14.00`,
    reads: ['Small ≤1: 8.5', 'Large ≤5: 14'],
  },
  {
    name: 'quoted values of a CSV',
    currency: 'USD',
    text: `"Tier","Weight","Fee, USD"
"Small, flat","up to 1 lb","2.50"
"Large","up to 10 lb","1,250.00"`,
    reads: ['Small, flat ≤0.454: 2.5', 'Large ≤4.536: 1250'],
  },
];

/** Written down after the reader, without regard to it. */
const FRESH: readonly CorpusTable[] = [
  {
    name: 'sizes in brackets behind the name, two services across',
    currency: 'GBP',
    text: `Parcel size | Max weight | Standard | Express
Mini (35 x 25 x 2.5 cm) | 0.25 kg | £2.05 | £3.95
Small (45 x 35 x 16 cm) | 2 kg | £3.20 | £5.60`,
    reads: [
      'Mini, Standard ≤0.25: 2.05',
      'Mini, Express ≤0.25: 3.95',
      'Small, Standard ≤2: 3.2',
      'Small, Express ≤2: 5.6',
      'tier Mini 35×25×2.5',
      'tier Small 45×35×16',
    ],
  },
  {
    name: 'a fixed part on top of the percentage',
    currency: 'EUR',
    text: `Kategorie→Gebühr
Bücher, Musik, Filme→15 % + 1,01 €
Elektronik→7 % (mind. 0,30 €)`,
    reads: ['Bücher, Musik, Filme 15% item 1.01', 'Elektronik 7% min 0.3'],
  },
  {
    name: 'ounces in the heading, "price" for what is charged',
    currency: 'USD',
    text: `Weight not over (oz)→Price
4→$3.27
8→$3.42
12→$3.58`,
    reads: ['– ≤0.113: 3.27', '– ≤0.227: 3.42', '– ≤0.34: 3.58'],
  },
  {
    name: 'storage by size, of which a card holds one',
    currency: 'USD',
    text: `Storage fees (per cubic foot per month)
→Standard size→Oversize
January–September→$0.78→$0.56
October–December→$2.40→$1.40`,
    reads: ['storage 1-9: 27.55', 'storage 10-12: 84.76'],
    notUnderstood: 2,
    faults: ['scheduleStorageBy'],
  },
  {
    name: 'charges of the account',
    currency: 'EUR',
    text: `Fee type;Amount
Closing fee;1.80
Payment processing;2.9 % + 0.30
Monthly subscription;39.00`,
    reads: ['itemFee 1.8', 'payment 2.9% 0.3', 'subscription 39'],
  },
  {
    name: 'with and without VAT',
    currency: 'EUR',
    text: `Gewichtsstufe→Preis (netto)→Preis (brutto)
bis 1 kg→3,19→3,80
bis 2 kg→3,69→4,39`,
    reads: ['– ≤1: 3.19', '– ≤2: 3.69'],
  },
  {
    name: 'ragged text without columns',
    currency: 'EUR',
    text: `Item weight  Fee
Up to 250g  2.10
251g to 500g  2.45
501g to 1kg  3.05
Each additional kg  0.60`,
    reads: ['– ≤0.25: 2.1', '– ≤0.5: 2.45', '– ≤1: 3.05', '– each 1: 0.6'],
  },
  {
    name: 'portions side by side',
    currency: 'EUR',
    text: `| Category | Commission on portion up to 250 | Commission on portion above 250 |
|---|---|---|
| Jewellery | 20% | 5% |
| Watches | 16% | 3% |`,
    reads: ['Jewellery 20%≤250 / 5% sliced', 'Watches 16%≤250 / 3% sliced'],
  },
  {
    name: 'a divisor of cubic inches in a column',
    currency: 'USD',
    text: `Size tier→Unit weight→Dimensional weight→Fee
Small→≤ 6 oz→n/a→$2.92
Large→≤ 1 lb→L x W x H / 139→$4.71`,
    reads: ['Small ≤0.17: 2.92', 'Large ≤0.454: 4.71', 'tier Large div 5021.69'],
  },
  {
    name: 'price bands down, French',
    currency: 'EUR',
    text: `Prix de vente→Commission
Jusqu'à 10 €→8 %
De 10,01 € à 50 €→12 %
Plus de 50 €→15 %`,
    reads: [' 8%≤10 / 12%≤50 / 15% whole'],
    faults: ['scheduleModeWhole'],
  },
  {
    name: 'bare weights across under one unit',
    currency: 'EUR',
    text: `Weight (kg)→0.5→1→2
Zone 1→3.20→3.90→4.80
Zone 2→4.10→5.00→6.40`,
    reads: [
      'Zone 1 ≤0.5: 3.2',
      'Zone 1 ≤1: 3.9',
      'Zone 1 ≤2: 4.8',
      'Zone 2 ≤0.5: 4.1',
      'Zone 2 ≤1: 5',
      'Zone 2 ≤2: 6.4',
    ],
  },
  {
    name: 'sides under single letters, a fee to a weight and for each kilogram more',
    currency: 'EUR',
    text: `Size→Max L→Max W→Max H→Fee up to 1 kg→Per extra kg
Pocket→25→18→3→1.95→-
Shoebox→45→35→20→3.60→0.42

All sides in cm.`,
    reads: [
      'Pocket ≤1: 1.95',
      'Shoebox ≤1: 3.6',
      'Shoebox each 1: 0.42',
      'tier Pocket 25×18×3',
      'tier Shoebox 45×35×20',
    ],
  },
  {
    name: 'percentages side by side that do not say whether they are of the whole',
    currency: 'EUR',
    text: `Catégorie | Commission jusqu'à 200 € | Au-delà de 200 €
Meubles | 15 % | 10 %
Décoration | 15 % | 12 %`,
    reads: ['Meubles 15%≤200 / 10% sliced', 'Décoration 15%≤200 / 12% sliced'],
    faults: ['scheduleMode'],
  },
  {
    name: 'bare percentages in Spanish, a decimal comma in quotation marks',
    currency: 'EUR',
    text: `Categoría,Porcentaje,Comisión mínima (EUR)
Jardín,"15,0",0.30
Libros,"12,5",0.30`,
    reads: ['Jardín 15% min 0.3', 'Libros 12.5% min 0.3'],
  },
  {
    name: 'two services, weights in bands',
    currency: 'EUR',
    text: `Weight band (g);Standard EUR;Express EUR
0-100;2.10;4.00
101-250;2.45;4.40`,
    reads: ['Standard ≤0.1: 2.1', 'Express ≤0.1: 4', 'Standard ≤0.25: 2.45', 'Express ≤0.25: 4.4'],
  },
  {
    name: 'sizes without names are told apart by what they measure',
    currency: 'EUR',
    text: `Poids max.→Dimensions max.→Frais d'expédition
150 g→33 x 23 x 2,5 cm→2,31 €
400 g→33 x 23 x 2,5 cm→2,70 €
1 kg→45 x 34 x 26 cm→4,12 €`,
    reads: [
      '33 x 23 x 2,5 cm ≤0.15: 2.31',
      '33 x 23 x 2,5 cm ≤0.4: 2.7',
      '45 x 34 x 26 cm ≤1: 4.12',
      'tier 33 x 23 x 2,5 cm 33×23×2.5',
      'tier 45 x 34 x 26 cm 45×34×26',
    ],
  },
  {
    name: 'percentages under ranges of price',
    currency: 'EUR',
    text: `Item price→0–10→10–50→50+
Fee→8%→12%→15%`,
    reads: [' 8%≤10 / 12%≤50 / 15% sliced'],
    faults: ['scheduleMode'],
  },
  {
    name: 'numbers of pieces across are no prices',
    currency: 'EUR',
    text: `Shipping weight→1 unit→3+ units
up to 1 kg→5.00→3.50`,
    reads: ['1 unit ≤1: 5', '3+ units ≤1: 3.5'],
  },
];

/** Tables that are read whole and right, some with a question where they leave one. */
export const CORPUS: readonly CorpusTable[] = [
  ...WEIGHTS_LONG,
  ...ACROSS,
  ...TIERS,
  ...REFERRAL,
  ...STORAGE,
  ...OTHERS,
  ...FRESH,
];

/** What is wrong on purpose: read as far as it goes, the rest marked; nothing of it becomes part of a card unseen. */
export const FAULTY: readonly CorpusTable[] = [
  {
    name: 'a percentage over 100',
    currency: 'EUR',
    text: 'Category→Referral fee\nGarden→150%\nBooks→12%',
    reads: ['Books 12%'],
    notUnderstood: 1,
  },
  {
    name: 'steps that fall',
    currency: 'EUR',
    text: 'Tier→Weight→Fee\nSmall→up to 2 kg→2.50\nSmall→up to 1 kg→2.10',
    reads: ['Small ≤2: 2.5', 'Small ≤1: 2.1'],
    faults: ['scheduleFalls'],
  },
  {
    name: 'a step twice',
    currency: 'EUR',
    text: 'Tier→Weight→Fee\nSmall→up to 2 kg→2.50\nSmall→up to 2 kg→2.10',
    reads: ['Small ≤2: 2.5', 'Small ≤2: 2.1'],
    faults: ['scheduleTwice'],
  },
  {
    name: 'a gap between steps',
    currency: 'EUR',
    text: 'Tier→Weight→Fee\nSmall→0 to 1 kg→2.50\nSmall→2 to 3 kg→3.10',
    reads: ['Small ≤1: 2.5', 'Small ≤3: 3.1'],
    faults: ['scheduleGap'],
  },
  {
    name: 'steps that overlap',
    currency: 'EUR',
    text: 'Tier→Weight→Fee\nSmall→0 to 2 kg→2.50\nSmall→1 to 3 kg→3.10',
    reads: ['Small ≤2: 2.5', 'Small ≤3: 3.1'],
    faults: ['scheduleOverlap'],
  },
  {
    name: 'money of another currency',
    currency: 'EUR',
    text: 'Tier→Weight→Fee\nSmall→up to 1 kg→$2.50\nSmall→up to 2 kg→€2.90',
    reads: ['Small ≤2: 2.9'],
    notUnderstood: 1,
  },
  {
    name: 'half a table: only its first lines',
    currency: 'EUR',
    text: 'Tier→Weight→Fee',
    reads: [],
    faults: ['scheduleNoTable'],
  },
  {
    name: "a picture's text",
    currency: 'EUR',
    text: 'T1er   We1ght  F€e\nSm@ll  up ti 1kq  2,S0\nL@rge  up ti Skg  4.7S',
    reads: [],
    notUnderstood: 3,
  },
  {
    name: 'a formula where a figure should stand',
    currency: 'EUR',
    text: 'Tier→Weight→Fee\nSmall→up to 1 kg→=B2*1.2\nSmall→up to 2 kg→2.90\nSmall→up to 3 kg→3.10',
    reads: ['Small ≤2: 2.9', 'Small ≤3: 3.1'],
    notUnderstood: 1,
  },
  {
    name: 'columns shifted in one row',
    currency: 'EUR',
    text: 'Tier→Weight→Fee\nSmall→up to 1 kg→2.50\nup to 2 kg→2.90→\nSmall→up to 3 kg→3.10',
    reads: ['Small ≤1: 2.5', 'Small ≤3: 3.1'],
    notUnderstood: 1,
  },
  {
    name: 'storage without a unit of volume',
    currency: 'EUR',
    text: 'Month→Storage fee\nJanuary to September→26.00\nOctober to December→36.00',
    reads: [],
    notUnderstood: 4,
    faults: ['scheduleVolume', 'scheduleVolume'],
  },
  {
    name: 'a formula that no card has: another base past a limit',
    currency: 'EUR',
    text: 'Tier→Weight→Fee\nSmall→up to 1 kg→2.50\nSmall→over 1 kg→4.00 + 0.50 per kg over 1 kg',
    reads: ['Small ≤1: 2.5'],
    faults: ['scheduleStepBase'],
  },
];
