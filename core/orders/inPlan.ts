/** An agreed order in place of the first order of a launch's cash run. */
import type { CashPlan } from '../cash/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import type { Order, OrderLine } from './schema.ts';
import { isAgreed } from './states.ts';
import { orderSaid } from './totals.ts';

/** What was agreed about the goods of a lane: what its first order really is. */
export type AgreedGoods = {
  readonly order: number;
  /** Bought units. */
  readonly units: number;
  readonly unitPrice: number;
  readonly placedOn: string | null;
  readonly leadDays: number | null;
  readonly depositShare: number | null;
  readonly creditDays: number;
  /** What has been paid of the whole order, home currency: the cash at hand is what is left after it. */
  readonly paidHome: number;
};

/**
 * What the earliest agreed order says of a lane's goods; null: there is none, or its figures are not known. Only lanes
 * of one component: the parts of a bundle come with orders of their own.
 */
function agreedGoods(orders: readonly Order[], laneId: string, quoteId: string): AgreedGoods | null {
  const first = [...orders]
    .filter((o) => isAgreed(o.state))
    .sort((a, b) => a.number - b.number)
    .flatMap((o) =>
      o.terms.lines
        .filter((l: OrderLine) => l.laneId === laneId && l.quoteId === quoteId)
        .map((line) => ({ o, line })),
    )[0];
  if (first === undefined) return null;
  const { o, line } = first;
  const said = orderSaid(o.terms, o.terms.placedOn ?? '').lines.find((l) => l.id === line.id);
  if (said == null || said.units === null || said.unitPrice === null || said.units <= 0) return null;
  const { placedOn, leadDays, depositShare, creditDays } = o.terms;
  return {
    order: o.number,
    units: said.units,
    unitPrice: said.unitPrice,
    placedOn,
    leadDays,
    depositShare,
    creditDays,
    paidHome: o.progress.payments.reduce((s, p) => s + p.home, 0),
  };
}

/**
 * The lane and its plan with an agreed order as the first: its quantity, price, terms and day stand where those of the
 * lane and the plan stood.
 */
function withAgreed(
  doc: LaneDocument,
  plan: CashPlan,
  agreed: AgreedGoods,
): { doc: LaneDocument; plan: CashPlan } {
  if (doc.goods === null || doc.goods === 'none' || doc.goods.length !== 1) return { doc, plan };
  const [goods] = doc.goods;
  if (goods === undefined || goods.source.kind !== 'quote') return { doc, plan };
  const source = {
    ...goods.source,
    // The agreed price has what is packed around a unit in it.
    priceBreaks: [{ minQty: 0, unitPrice: agreed.unitPrice }],
    extras: [],
    // What the supplier took is no problem, though it be less than is usual.
    minimumOrder: Math.min(goods.source.minimumOrder, agreed.units),
    leadDays: agreed.leadDays ?? goods.source.leadDays,
    depositShare: agreed.depositShare ?? goods.source.depositShare,
    creditDays: agreed.creditDays,
  };
  const orderQuantity = (agreed.units * goods.unitsInBoughtPack) / goods.unitsInSoldPack;
  return {
    doc: { ...doc, orderQuantity, goods: [{ ...goods, source }] },
    plan: {
      ...plan,
      start: agreed.placedOn ?? plan.start,
      // The run pays from the order on: it begins with what was there before.
      launch: { ...plan.launch, cash: plan.launch.cash === null ? null : plan.launch.cash + agreed.paidHome },
    },
  };
}

/** The same for a stored lane: with what was agreed about its one source of goods, where something was. */
export function withAgreedOf(
  orders: readonly Order[],
  lane: {
    readonly id: string;
    readonly data: { readonly components: readonly { readonly quoteId: string }[] };
  },
  doc: LaneDocument,
  plan: CashPlan,
): { doc: LaneDocument; plan: CashPlan; agreed: AgreedGoods | null } {
  const [only, ...more] = lane.data.components;
  const agreed = only === undefined || more.length > 0 ? null : agreedGoods(orders, lane.id, only.quoteId);
  return { ...(agreed === null ? { doc, plan } : withAgreed(doc, plan, agreed)), agreed };
}
