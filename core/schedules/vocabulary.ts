/**
 * The words of fee tables in the languages that are read: English, German, French, Spanish, Italian, Polish,
 * Japanese. Each entry is a pattern without its edges; `means` puts edges around it.
 */

const EDGE = '[\\p{L}\\d]';
/** A pattern for any of these words, whole, whatever their case; Japanese has no edges between words. */
export const means = (...parts: readonly string[]): RegExp => {
  const words = parts.join('|');
  return new RegExp(
    `(?:(?<!${EDGE})(?:${words})(?!${EDGE})|[\\u3040-\\u30ff\\u4e00-\\u9fff]*(?:${
      words
        .split('|')
        .filter((w) => /[\u3040-\u9fff]/.test(w))
        .join('|') || '\\u0000'
    }))`,
    'iu',
  );
};

/** A cell that says one of these and no more. */
const whole = (...parts: readonly string[]): RegExp => new RegExp(`^(?:${parts.join('|')})[.*]*$`, 'iu');

/** Up to and including. */
export const UP_TO = means(
  'not (?:over|exceeding|above|more than)|nicht (?:über|mehr als)|pas plus de|no más de',
  'non oltre|up to|at most|no more than|max\\.?|maximum|under|less than|below|or less',
  "bis(?: zu| einschließlich)?|höchstens|unter|jusqu['’]?[àa]?|au plus|maxi?|moins de",
  'inférieur à|hasta|máximo|como máximo|menos de|fino a|entro|massimo|al massimo|meno di|do',
  'maks\\.?|poniżej|まで|以下|未満',
);
/** More than. */
export const OVER = means(
  'over|above|more than|exceeding|heavier|from|über|mehr als|ab|plus de|au[- ]delà de',
  'à partir de|supérieur à|más de|desde|superior a|oltre|più di|superiore a|da|powyżej|ponad|od',
  'and (?:more|over|above|up)|or (?:more|over)|et plus|y más|e oltre|i więcej|und mehr',
  '超|を超える|以上|超える',
);
/** For each further one. */
export const EACH = means(
  'extra',
  'each|every|per|additional|further|je|jede[sr]?|weitere[snr]?|pro|zusätzliche[snr]?|chaque',
  'par|supplémentaires?|cada|adicional(?:es)?|por cada|ogni|per ogni|aggiuntiv[oi]|ulterior[ei]',
  'każd[eya]|za każd[eya]|kolejn[eya]|dodatkow[eya]|追加|ごと|毎',
);
/** The first so much. */
export const FIRST = means(
  'first|erste[ns]?|die ersten|premiers?|premi[èe]res?|primer(?:o|os|a|as)?|prim[oiae]',
  'pierwsz[eya]|最初の?',
);
/** Of what is left. */
export const OF_THE_REST = means(
  'rest|remainder|portion|part|balance|excess|teil|rest(?:betrag)?|darüber hinaus|partie|reste',
  'tranche|surplus|parte|resto|excedente|eccedenz[ae]|eccedente|część|reszt[ay]',
  'nadwyżk[ai]|残り|部分|超過分',
);
/** The whole amount, where it is within a limit. */
export const OF_THE_WHOLE = means(
  'whole|entire|if the|when the|items? (?:priced|with|sold)|total (?:price|sale)',
  'gesamt(?:en|betrag|preis)?|wenn der|totalité|entier|si le|total|entero|si el|intero|se il',
  'całość|jeśli|全額|場合',
);
export const AT_LEAST = means(
  'minimum|min\\.?|at least|mind\\.?|mindestens|mindestgebühr|minimal(?:e|er)?|au moins',
  'mínim[oa]|al menos|minim[oa]|almeno|co najmniej|最低|最小',
);
export const AT_MOST = means(
  'maximum|max\\.?|at most|capped at|cap|höchstens|höchstgebühr|plafond|máxim[oa]|tope',
  'massim[oa]|maksimum|maks\\.?|najwyżej|最大|上限',
);

/** The larger of a share and an amount, and the smaller: a least and a most. */
export const GREATER_OF = means(
  '(?:the )?(?:greater|higher|larger) of|whichever is (?:greater|higher|larger|more)',
  'der höhere(?: betrag)?(?: aus| von)?',
  'le plus élevé|le montant le plus élevé|el mayor|el importe mayor|il maggiore|większa z',
);
export const LESSER_OF = means(
  '(?:the )?(?:lesser|lower|smaller) of|whichever is (?:less|lower|smaller)',
  'der niedrigere(?: betrag)?(?: aus| von)?',
  'le moins élevé|el menor|il minore|mniejsza z',
);

/** Services that a card of fees a unit does not hold: what stands under these words is not read. */
const ELSEWHERE = means(
  'removals?|disposals?|returns?|refunds?|label(?:l?ing)?|prep(?:aration)?|placement|inbound',
  'low[- ]stock|overage',
  'discounts?|rebates?|rabatt|remise|descuento|sconto|rabat|割引|fuel|pick[- ]?ups?',
  'collection|insurance|signature|residential|remote area|(?:per|an?|each) (?:order|shipment)',
  '(?:additional|further|extra) items?',
  'surcharges?|cancell?ation|penalt(?:y|ies)|liquidation|repackaging|unplanned',
  'retouren?|rücksendung(?:en)?|entsorgung|rückgabe|etikettierung|treibstoff|zuschlag',
  'versicherung|abholung|je bestellung|weitere[rs]? artikel',
  'retours?|retrait|élimination|étiquetage|carburant|surcharge|assurance|enlèvement|par commande',
  'devoluci[oó]n(?:es)?|retirada|eliminación|etiquetado|combustible|recargo|seguro|recogida|por pedido',
  'resi|rimozione|smaltimento|etichettatura|carburante|supplemento|assicurazione|ritiro|per ordine',
  'zwrot(?:y|ów)?|utylizacj[ai]|etykietowani[ea]|paliwow[aey]|dopłat[ay]|ubezpieczeni[ea]',
  'odbi[oó]r|za zamówienie',
  '返品|返送|廃棄|ラベル|燃油|保険|集荷|注文あたり',
);
/** What measures a parcel in a way that a card's tiers do not. */
export const SUM_OF_SIDES = means(
  'sum of (?:the )?(?:three |all )?(?:sides|dimensions)|L ?\\+ ?[WB] ?\\+ ?H|summe der (?:drei )?seiten',
  'somme des (?:trois )?(?:côtés|dimensions)|suma de (?:los )?(?:tres )?lados|somma dei (?:tre )?lati',
  'suma (?:trzech )?(?:boków|wymiarów)|三辺合計|3辺合計|3辺計',
);

/** Plans of an account: a table that has one a row is about which to choose. */
export const PLANS = means(
  'plans?|account types?|packages?|paket|tarifmodell|kontotyp|offres?|formules?|planes?|piano',
  'piani|pakiet|プラン',
);

/** With VAT in it, and without. */
export const WITH_VAT = means(
  'gross|incl(?:uding|\\.)? ?vat|brutto|inkl\\.? mwst\\.?|ttc|con iva|iva incluid[oa]',
  'iva inclusa|z vat|税込',
);
export const WITHOUT_VAT = means(
  'net|excl(?:uding|\\.)? ?vat|ex vat|netto|zzgl\\.? mwst\\.?|ht|sin iva|iva esclusa|bez vat|税抜',
);
/** The tax itself. */
export const VAT_ALONE =
  /^\s*(?:\+\s*)?(?:vat|mwst\.?|ust\.?|tva|iva|ptu|gst|tax|消費税)(?:\s*[(]?\d+(?:[.,]\d+)?\s*%[)]?)?\s*$/iu;
/** Amounts in hundredths of the currency. */
export const HUNDREDTHS = new RegExp(
  [
    '¢|(?<=\\d)\\s?p(?!\\p{L})',
    '(?<!\\p{L})(?:cents?|ct|pence|centimes?|céntimos|centavos|centesimi|grosz[ey]?|groszach)(?!\\p{L})',
  ].join('|'),
  'iu',
);
/** What a sale or an account costs besides. */
export const CHARGES = {
  subscription: means(
    'subscription|monthly (?:fee|charge|plan)|abonnement|abo|monatsgebühr|grundgebühr',
    'frais mensuels?|suscripción|cuota mensual|canone(?: mensile)?|abonament|opłata miesięczna',
    '月額(?:料金)?',
  ),
  payment: means(
    'payment(?: processing)?|card processing|zahlung(?:sabwicklung|sgebühr)?|paiement|pago',
    'pagamento|płatnoś[cć]i?|決済(?:手数料)?',
  ),
  itemFee: means(
    '(?:per )?item(?: fee)?|closing fee|per sale|per order|listing fee|einstellgebühr|stückgebühr',
    'par article|por artículo|per articolo|za sztukę|基本成約料',
  ),
} as const;

/** Not offered, or no figure: a cell that says so on purpose. */
export const NO_FIGURE = whole(
  'n/?\\.?a\\.?|none|not (?:applicable|available|offered|accepted)|ask us|on request|please ask',
  'contact us|poa|k\\.?\\s?a\\.?|entfällt|auf anfrage|nicht (?:möglich|verfügbar|angeboten)',
  's\\.?\\s?o\\.?|sans objet|non (?:applicable|disponible)|sur demande|n/?d',
  'no (?:aplica|disponible)|a consultar|non (?:applicabile|previsto)|su richiesta|nie dotyczy',
  '(?:no|without) (?:cap|limit|minimum|maximum)|uncapped|keine?|ohne|aucune?|sans|ningun[oa]|nessun[oa]',
  'brak|na zapytanie|該当なし|要相談|対象外|[-–—]+|[xX]',
);
/** No limit of size or weight. */
export const ANY_SIZE = whole(
  'any|all|no limit|unlimited|alle|beliebig|unbegrenzt|tous|illimité|cualquiera|sin límite',
  'qualsiasi|illimitato|dowoln[aey]|bez limitu|制限なし',
);
/** Nothing is charged. */
export const FREE = whole(
  'free|no charge|no fee|kostenlos|gratis|kostenfrei|gratuit|sans frais|sin coste|sin cargo',
  'gratuito|bez opłat|bezpłatnie|無料',
);
/** A row that adds the others up. */
const TOTALS = [
  'total|sum|grand total|summe|gesamt|insgesamt',
  'total général|totale|suma|razem|łącznie|合計|計',
];
export const TOTAL = new RegExp(`^(?:${TOTALS.join('|')})(?![\\p{L}\\d])`, 'iu');

const LONG_STAY = means(
  'long[- ](?:stay|term)|aged|langzeit\\p{L}*|longue durée|larga estancia|lunga giacenza',
  'długoterminow\\p{L}*|長期',
);
/** Whether words name a service that a card does not hold; what is stored long is held. */
export const isElsewhere = (text: string): boolean =>
  ELSEWHERE.test(text) && ![LONG_STAY, COLUMN_WORDS.storage, COLUMN_WORDS.age].some((w) => w.test(text));

/** What a column may say. Heading words decide first, contents where they do not. */
export const COLUMN_WORDS = {
  girth: means(
    'girth|gurtma(?:ß|ss)|circonf[ée]rence|longueur \\+|length \\+|lunghezza \\+|contorno',
    'obwód|胴回り',
  ),
  divisor: means(
    'divisor|volumetric|dimensional|volumengewicht|teiler|diviseur|volum[ée]trique|divisore',
    'przelicznik|容積',
  ),
  packaging: means('packaging|packing|verpackung|emballage|embalaje|imballaggio|opakowanie|梱包'),
  length: means(
    'length|longest(?: side)?|länge|längste seite|longueur|longitud|largo|lado mayor|lunghezza',
    'lato (?:più )?lungo|długość|最長辺|長さ|縦',
  ),
  width: means('width|median(?: side)?|breite|mittlere seite|largeur|ancho|larghezza|szerokość|幅|横'),
  height: means(
    'height|depth|thickness|shortest(?: side)?|höhe|kürzeste seite|hauteur|épaisseur|alto|altura',
    'grosor|altezza|spessore|wysokość|grubość|高さ|厚さ',
  ),
  sides: means(
    'dimensions?|sides?|size limits?|measurements?|maße|abmessung(?:en)?|dimensiones|medidas',
    'dimensioni|misure|wymiary|寸法|サイズ',
  ),
  weight: means(
    'weights?|gewicht|poids|peso|waga|ciężar|重量|重さ|up to|kg|g|lbs?|oz',
    'pounds?|ounces?|grams?|kilos?|kilograms?',
  ),
  referral: means(
    'porcentaje|pourcentage|prozent(?:satz)?|procent|we take|share',
    'referral|commissions?|selling fee|sales? fee|final value|percentage|provision|verkaufsgebühr',
    'verkaufsprovision|taux|comisi[oó]n(?:es)?|tarifa por referencia|commissione|percentuale',
    'prowizj[ae]|opłata od sprzedaży|販売手数料|手数料率',
  ),
  minimum: means(
    'minimum(?: fee)?|min\\.?|mindest(?:gebühr|betrag|provision)?|minimal[ea]?|frais minimum',
    'm[ií]nim[oa]s?|opłata minimalna|minimalna|最低(?:手数料)?',
  ),
  maximum: means(
    'maximum(?: fee)?|max\\.?|maks\\.?|fee cap|cap|höchst(?:gebühr|betrag)|plafond',
    'm[áa]xim[oa]|massim[oa]|maksymalna|上限',
  ),
  itemFee: means(
    'per item fee|item fee|fee per item|fixed(?: fee| part| amount)?|closing fee',
    'stückgebühr|artikelgebühr|frais par article',
    'tarifa por artículo|tariffa per articolo|opłata za sztukę|基本成約料',
  ),
  category: means(
    '(?:sub-?)?categor(?:y|ies)|(?:unter)?kategorien?|sous-cat[ée]gories?|subcategor[ií]as?',
    'warengruppe|cat[ée]gories?|categor[ií]as?|categorie?',
    'kategori[ae]|カテゴリー?|商品分類',
  ),
  month: means(
    'months?|period|season|monat(?:e)?|zeitraum|mois|p[ée]riode|mes(?:es)?|periodo|mesi|mese',
    'stagione|miesiąc[e]?|okres|月|期間',
  ),
  storage: means(
    'storage|lager(?:gebühr|kosten|ung)?|stockage|almacenamiento|almacenaje|stoccaggio',
    'magazzinaggio|magazynowani[ea]|składowani[ea]|保管(?:料)?|在庫保管',
  ),
  age: means(
    'age|days|older|alter|lagerdauer|tage|ancienneté|jours|antigüedad|días|giorni|anzianità',
    'wiek|dni|日数',
  ),
  price: means(
    'price|item price|selling price|price band|preis|verkaufspreis|prix|precio|prezzo|cena',
    '価格|販売価格',
  ),
  fee: means(
    'fees?|charges?|rates?|cost|amount|a piece|per unit|gebühr(?:en)?|entgelt|kosten|betrag',
    'tarif[ae]?s?|frais|montant|co[uû]t|coste|importe|costo|tariff[ae]|opłat[ay]|koszt|stawka|手数料',
    '料金|送料|費用',
  ),
  zone: means('zones?|destinations?|region|zonen?|zona|strefa|地域|ゾーン'),
  tier: means(
    'size ?tier|tier|size|class|kind|type|format|parcel|größe(?:nklasse)?|klasse|format|taille',
    'tranche|catégorie de taille|tamaño|formato|dimensione|fascia|rozmiar|サイズ区分|区分|種類',
  ),
} as const;
export type ColumnWord = keyof typeof COLUMN_WORDS;

const MONTH_LISTS = [
  'jan|january|januar|jänner|janvier|janv|enero|ene|gennaio|gen|styczeń|sty|1月',
  'feb|february|februar|février|févr|fév|febrero|febbraio|luty|lut|2月',
  'mar|march|märz|mär|mrz|mars|marzo|marzec|3月',
  'apr|april|avril|avr|abril|abr|aprile|kwiecień|kwi|4月',
  'may|mai|mayo|maggio|mag|maj|5月',
  'jun|june|juni|juin|junio|giugno|giu|czerwiec|cze|6月',
  'jul|july|juli|juillet|juil|julio|luglio|lug|lipiec|lip|7月',
  'aug|august|août|aou|agosto|ago|sierpień|sie|8月',
  'sep|sept|september|septembre|septiembre|settembre|set|wrzesień|wrz|9月',
  'oct|okt|october|oktober|octobre|octubre|ottobre|ott|październik|paź|10月',
  'nov|november|novembre|noviembre|listopad|lis|11月',
  'dec|dez|december|dezember|décembre|déc|diciembre|dic|dicembre|grudzień|gru|12月',
];
const MONTH_WORDS = MONTH_LISTS.map((words) => new RegExp(`^(?:${words})\\.?$`, 'iu'));

/** The name of any month. */
export const MONTH_NAMES = means(...MONTH_LISTS);

/** The month a word names, 1 to 12; null where it names none. */
export function monthOf(word: string): number | null {
  const at = MONTH_WORDS.findIndex((m) => m.test(word.trim()));
  return at < 0 ? null : at + 1;
}

/**
 * The months a period names: one, or from one to another, past the turn of the year too.
 *
 * @example monthsOf('October – December') // [10, 11, 12]
 * @example monthsOf('Nov to Jan') // [11, 12, 1]
 * @example monthsOf('Summer') // null
 */
export function monthsOf(text: string): number[] | null {
  const quarters = /^Q([1-4])(?:\s*[–-]\s*Q?([1-4]))?$/iu.exec(text.trim());
  if (quarters !== null) return monthsOfQuarters(Number(quarters[1]), Number(quarters[2] ?? quarters[1]));
  // A year makes it a day on which fees change, no season.
  if (/(?:19|20)\d{2}/.test(text)) return null;
  const named = (text.match(/\d{1,2}月|\p{L}+/gu) ?? []).map(monthOf).filter((m): m is number => m !== null);
  const [first, last] = named;
  if (first === undefined || named.length > 2) return null;
  // From one month to a word that is none.
  if (last === undefined) return /\p{L}.*[–—-].*\p{L}/u.test(text) ? null : [first];
  const months: number[] = [];
  for (let m = first; ; m = (m % 12) + 1) {
    months.push(m);
    if (m === last) return months;
  }
}
function monthsOfQuarters(first: number, last: number): number[] | null {
  return last < first
    ? null
    : Array.from({ length: 3 * (last - first + 1) }, (_, i) => 3 * (first - 1) + i + 1);
}
