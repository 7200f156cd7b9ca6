/** A purchase order as its supplier gets it: a drawn page, and a table. */
import { Document, Page, renderToBuffer, StyleSheet, Text, View } from '@react-pdf/renderer';
import type { ReactNode } from 'react';
import { minorDigits } from '../../core/money/money.ts';
import { orderName } from '../../core/orders/name.ts';
import type { Order } from '../../core/orders/schema.ts';
import type { LineSaid, OrderSaid } from '../../core/orders/totals.ts';
import { familiesFor } from './fonts.ts';
import type { OutSheet } from './sheets.ts';

/** What stands on the paper beside the figures. */
export type OrderFileWords = Readonly<
  Record<
    | 'title'
    | 'to'
    | 'from'
    | 'day'
    | 'wantedBy'
    | 'incoterm'
    | 'item'
    | 'code'
    | 'barcode'
    | 'units'
    | 'carton'
    | 'unitPrice'
    | 'net'
    | 'vat'
    | 'gross'
    | 'goods'
    | 'delivery'
    | 'total'
    | 'deposit'
    | 'balance'
    | 'due'
    | 'notKnown'
    | 'known'
    | 'page',
    string
  >
>;
export type OrderPaper = {
  readonly order: Pick<Order, 'number' | 'terms'>;
  readonly said: OrderSaid;
  /** Who orders: name, and below it the address. */
  readonly from: string;
  readonly words: OrderFileWords;
  readonly locale: string;
};

const style = StyleSheet.create({
  page: { fontSize: 9.5, padding: 42, paddingBottom: 56, color: '#1d1a16' },
  head: { flexDirection: 'row', justifyContent: 'space-between', marginBottom: 22 },
  title: { fontSize: 19, fontWeight: 700, lineHeight: 1.2 },
  quiet: { color: '#5f584e', fontSize: 8.5 },
  parties: { flexDirection: 'row', marginBottom: 20 },
  party: { width: '50%', paddingRight: 16 },
  row: { flexDirection: 'row', borderBottom: '0.6 solid #d9d0c1', paddingVertical: 4 },
  top: { borderBottom: '1 solid #1d1a16' },
  item: { flexGrow: 1, flexBasis: 0, paddingRight: 8 },
  figure: { width: 62, textAlign: 'right' },
  short: { width: 50, textAlign: 'right' },
  sums: { marginTop: 10, marginLeft: 'auto', width: 240 },
  sum: { flexDirection: 'row', justifyContent: 'space-between', paddingVertical: 2 },
  total: { borderTop: '1.4 solid #2b3a9b', marginTop: 3, paddingTop: 5, fontSize: 12, fontWeight: 700 },
  note: { marginTop: 24 },
  foot: { position: 'absolute', bottom: 28, left: 42, right: 42, fontSize: 8, color: '#5f584e' },
});

type Figures = { money: (x: number | null) => string; number: (x: number | null) => string };
function figuresFor({ order, words, locale }: OrderPaper): Figures {
  const digits = minorDigits(order.terms.currency);
  const money = new Intl.NumberFormat(locale, {
    minimumFractionDigits: digits,
    maximumFractionDigits: digits,
  });
  const price = new Intl.NumberFormat(locale, { maximumFractionDigits: 4 });
  const said = (f: Intl.NumberFormat) => (x: number | null) => (x === null ? words.notKnown : f.format(x));
  return { money: said(money), number: said(price) };
}

/** Draws an order as a PDF of A4 pages. */
export function orderPdf(paper: OrderPaper): Promise<Buffer> {
  const { order, said, from, words } = paper;
  const { terms } = order;
  const title = `${words.title} ${orderName(order.number)}`;
  const families = familiesFor(
    JSON.stringify([Object.values(words), terms, from, title]) +
      new Intl.NumberFormat(paper.locale).format(-1234567.89),
  );
  return renderToBuffer(
    <Document title={title} author={from.split('\n')[0] ?? ''}>
      <Page size="A4" style={[style.page, { fontFamily: families as unknown as string }]}>
        <View style={style.head}>
          <Text style={style.title}>{title}</Text>
          <View>
            <Fact name={words.day} value={terms.placedOn} />
            <Fact name={words.wantedBy} value={terms.wantedBy} />
            <Fact name={words.incoterm} value={terms.incoterm} />
          </View>
        </View>
        <View style={style.parties}>
          <Party name={words.to}>{`${terms.supplier}\n${terms.mail}`.trim()}</Party>
          <Party name={words.from}>{from}</Party>
        </View>
        <Lines paper={paper} />
        <Sums paper={paper} />
        {terms.note !== '' && <Text style={style.note}>{terms.note}</Text>}
        <View fixed style={style.foot}>
          <Text
            render={({ pageNumber, totalPages }) =>
              `${orderName(order.number)} · ${words.page} ${pageNumber} / ${totalPages}`
            }
          />
        </View>
      </Page>
    </Document>,
  );

  function Sums({ paper: p }: { paper: OrderPaper }) {
    const { money } = figuresFor(p);
    const isWhole = said.lacks.length === 0;
    // A sum that lacks something says so: nobody takes it for the price.
    const known = (name: string): string => (isWhole ? name : `${name}, ${words.known}`);
    return (
      <View style={style.sums} wrap={false}>
        <Sum name={known(words.goods)} value={money(said.goods)} />
        <Sum name={words.delivery} value={money(said.delivery?.net ?? null)} />
        {terms.charges.map((c) => (
          <Sum key={c.name} name={c.name} value={money(c.amount)} />
        ))}
        <Sum name={words.vat} value={money(said.vat)} />
        <View style={[style.sum, style.total]}>
          <Text>{known(words.total)}</Text>
          <Text>{`${money(said.total)} ${terms.currency}`}</Text>
        </View>
        {isWhole &&
          said.due.length > 1 &&
          said.due.map((d) => (
            <Sum
              key={d.kind}
              name={`${words[d.kind]}${d.day === null ? '' : `, ${words.due} ${d.day}`}`}
              value={money(d.amount)}
            />
          ))}
      </View>
    );
  }
}

function Lines({ paper }: { paper: OrderPaper }) {
  const { words, order, said } = paper;
  const { money, number } = figuresFor(paper);
  const lineOf = (id: string): LineSaid | undefined => said.lines.find((l) => l.id === id);
  return (
    <>
      <View style={[style.row, style.top, style.quiet]} fixed>
        <Text style={style.item}>{words.item}</Text>
        <Text style={style.short}>{words.units}</Text>
        <Text style={style.figure}>{words.unitPrice}</Text>
        <Text style={style.figure}>{words.net}</Text>
        <Text style={style.figure}>{words.vat}</Text>
        <Text style={style.figure}>{`${words.gross}, ${order.terms.currency}`}</Text>
      </View>
      {order.terms.lines.map((l) => {
        const own = lineOf(l.id);
        const about = [
          l.code === '' ? '' : `${words.code} ${l.code}`,
          l.gtin === null ? '' : `${words.barcode} ${l.gtin}`,
          l.carton === null ? '' : `${words.carton} ${l.carton}`,
        ].filter((x) => x !== '');
        return (
          <View key={l.id} style={style.row} wrap={false}>
            <View style={style.item}>
              <Text>{l.name}</Text>
              {about.length > 0 && <Text style={style.quiet}>{about.join(' · ')}</Text>}
            </View>
            <Text style={style.short}>{number(own?.units ?? null)}</Text>
            <Text style={style.figure}>{number(own?.unitPrice ?? null)}</Text>
            <Text style={style.figure}>{money(own?.amount?.net ?? null)}</Text>
            <Text style={style.figure}>{money(own?.amount?.vat ?? null)}</Text>
            <Text style={style.figure}>{money(own?.amount?.gross ?? null)}</Text>
          </View>
        );
      })}
    </>
  );
}

const Fact = ({ name, value }: { name: string; value: string | null }) =>
  value === null || value === '' ? null : <Text style={{ textAlign: 'right' }}>{`${name} ${value}`}</Text>;

const Party = ({ name, children }: { name: string; children: ReactNode }) => (
  <View style={style.party}>
    <Text style={style.quiet}>{name}</Text>
    <Text>{children}</Text>
  </View>
);

const Sum = ({ name, value }: { name: string; value: string }) => (
  <View style={style.sum}>
    <Text style={{ maxWidth: 150 }}>{name}</Text>
    <Text>{value}</Text>
  </View>
);

/** The lines of an order as a table, and below them what comes on top. Unknown is blank. */
export function orderSheet({ order, said, words }: Omit<OrderPaper, 'from' | 'locale'>): OutSheet {
  const { terms } = order;
  const blank = (n: number): null[] => new Array<null>(n).fill(null);
  return {
    name: orderName(order.number),
    columns: [
      words.item,
      words.code,
      words.barcode,
      words.units,
      words.carton,
      `${words.unitPrice}, ${terms.currency}`,
      words.net,
      words.vat,
      words.gross,
    ].map((title) => ({ title })),
    rows: [
      ...terms.lines.map((l) => {
        const own = said.lines.find((x) => x.id === l.id);
        const { net = null, vat = null, gross = null } = own?.amount ?? {};
        return [
          l.name,
          l.code,
          l.gtin,
          own?.units ?? null,
          l.carton,
          own?.unitPrice ?? null,
          net,
          vat,
          gross,
        ];
      }),
      [
        words.delivery,
        ...blank(5),
        said.delivery?.net ?? null,
        said.delivery?.vat ?? null,
        said.delivery?.gross ?? null,
      ],
      ...terms.charges.map((c) => [c.name, ...blank(5), c.amount, null, c.amount]),
      [words.total, ...blank(6), said.vat, said.total],
    ],
  };
}
