/**
 * The whole lane once more, in exact decimals, written from the rules and not from the core: an independent
 * reckoning for tests. Unknown is Decimal NaN. `hits` names the branches of the rules that were reached. It
 * stays one file, to be read from top to bottom beside the page of the rules, section by section.
 */
import { Decimal } from 'decimal.js';
import type { Figure } from '../lane/figures.ts';
import type { Line } from '../lane/costLines.ts';
import type { LaneDocument, RetailPurchase } from '../lane/schema.ts';

const D = Decimal.clone({ precision: 40 });
type D = Decimal;
const num = (x: number | null | undefined): D => new D(x ?? Number.NaN);
const zero = num(0);
const one = num(1);
const unknown = num(null);
const max = (a: D, b: D): D => (a.isNaN() || b.isNaN() ? unknown : D.max(a, b));
const min = (a: D, b: D): D => (a.isNaN() || b.isNaN() ? unknown : D.min(a, b));
const sum = (list: readonly D[]): D => list.reduce((s, x) => s.plus(x), zero);
const up = (x: D): D => x.minus('1e-9').ceil();
const within = (x: D, limit: D): boolean => x.lte(limit.plus('1e-9'));
const clampTo = (x: D, lo: D | null, hi: D | null): D => {
  let y = x;
  if (lo !== null) y = max(y, lo);
  if (hi !== null) y = min(y, hi);
  return y;
};
const clamp = (x: D, lo: number | null, hi: number | null): D =>
  clampTo(x, lo === null ? null : num(lo), hi === null ? null : num(hi));
const ratio = (a: D, b: D): D => (b.gt('1e-12') ? a.div(b) : unknown);
/** 0 times anything unknown is still 0 where the factor is a switch that is off. */
const part = (share: number, x: D): D => (share === 0 ? zero : x.times(share));

export type Exact = {
  lines: Record<Line, D>;
  figures: Record<Figure, D>;
  blanks: Set<string>;
  problems: Set<string>;
  cifValue: D;
};

/** What was opened and not filled in yet is a line that is not known: the document with such lines blank. */
function withOpenLinesBlank(doc: LaneDocument): { doc: LaneDocument; otherIsOpen: boolean } {
  const open = (line: { amount: number | null } | null | undefined): boolean => line?.amount === null;
  const { adverts, demand, returns, dispatch, storage, supplierDelivery, prep } = doc;
  const amount =
    prep === null || prep === 'none'
      ? 0
      : doc.product.oversize && prep.oversize !== null
        ? prep.oversize
        : prep.standard;
  return {
    otherIsOpen: doc.otherPerUnit.some((o) => open(o.line)),
    doc: {
      ...doc,
      otherPerUnit: doc.otherPerUnit.filter((o) => !open(o.line)),
      adverts:
        adverts !== null &&
        adverts !== 'none' &&
        adverts.keywords.some((k) => [k.low, k.high, k.conversionRate].includes(null))
          ? null
          : adverts,
      demand:
        demand === null ||
        (demand.kind === 'typed'
          ? demand.units === null
          : demand.kind === 'marketShare'
            ? demand.marketUnits === null || demand.share === null
            : demand.listingUnits === null || demand.rivals.includes(null))
          ? null
          : demand,
      returns:
        returns !== null &&
        returns !== 'none' &&
        (returns.rate === null || (returns.rate > 0 && (open(returns.handling) || open(returns.disposal))))
          ? null
          : returns,
      dispatch:
        dispatch !== null && dispatch !== 'none' && (open(dispatch.packaging) || open(dispatch.pickAndPack))
          ? null
          : dispatch,
      storage:
        storage !== null &&
        storage !== 'none' &&
        storage !== 'card' &&
        open(storage.own) &&
        doc.typed.storagePerM3Month === null
          ? null
          : storage,
      supplierDelivery:
        supplierDelivery !== null && supplierDelivery !== 'none' && open(supplierDelivery)
          ? null
          : supplierDelivery,
      prep: amount === null ? null : prep,
      goods: !Array.isArray(doc.goods)
        ? doc.goods
        : doc.goods.map((c) => {
            const s = c.source;
            if (s.kind === 'quote')
              return [...s.extras, ...s.perOrder].some(open)
                ? {
                    ...c,
                    source: { ...s, priceBreaks: s.priceBreaks.map((b) => ({ ...b, unitPrice: null })) },
                  }
                : c;
            const isOpen =
              s.discounts.some((x) => (x.kind === 'percent' ? x.share : x.amount) === null) ||
              s.giftCard?.discount === null ||
              s.cashback?.share === null ||
              open(s.delivery);
            return isOpen ? { ...c, source: { ...s, shelfPrice: null } } : c;
          }),
    },
  };
}

export function reckonExactly(given: LaneDocument, hits: Map<string, number> = new Map()): Exact {
  const { doc, otherIsOpen } = withOpenLinesBlank(given);
  const hit = (name: string): void => void hits.set(name, (hits.get(name) ?? 0) + 1);
  const blanks = new Set<string>();
  const problems = new Set<string>();
  const blank = (name: string): D => {
    blanks.add(name);
    return unknown;
  };
  const problem = (code: string): D => {
    problems.add(code);
    hit(`problem ${code}`);
    return unknown;
  };

  // section 1
  const digits = doc.currency === 'JPY' ? 0 : doc.currency === 'KWD' ? 3 : 2;
  hit(`digits ${digits}`);
  const round = (x: D): D => {
    const ten = num(10).pow(digits);
    return x.isNaN()
      ? x
      : x
          .abs()
          .times(ten)
          .plus('0.5')
          .plus('1e-7')
          .floor()
          .div(ten)
          .times(x.isNegative() ? -1 : 1);
  };
  const exchange = doc.rates.exchange;
  const rateOf = (c: string): D =>
    exchange === null ? unknown : c === exchange.base ? one : num(exchange.rates[c]);
  const fx = (from: string): D => {
    if (from === doc.currency) return one;
    const f = rateOf(doc.currency).div(rateOf(from));
    return f.isNaN() ? problem('noExchangeRate') : f;
  };
  /** An amount in the sales currency; nothing is nothing in any currency. */
  const inSales = (x: D, from: string): D => (x.isZero() ? zero : x.times(fx(from)));

  // section 2
  const tax = doc.rates.tax;
  const inclusive = tax === null || tax.regime === 'inclusive';
  hit(inclusive ? 'inclusive' : 'exclusive');
  const price = doc.price === null ? blank('price') : num(doc.price);
  const itemPrice = price.times(one.minus(doc.averageDiscount));
  const gross = itemPrice.plus(doc.shippingCharged);
  const s = doc.standing;
  hit(`standing ${s?.kind ?? 'missing'}`);
  if (s === null) problem('standingMissing');
  /** 1: VAT is a cost, 0: recoverable. */
  const vatIsCost =
    s === null
      ? unknown
      : s.kind === 'registered' || (s.kind === 'marketplaceRemits' && s.recoverable)
        ? zero
        : one;
  let r: D;
  if (doc.typed.vatRate !== null) r = num(doc.typed.vatRate);
  else if (tax === null) r = problem('noTaxCard');
  else if (tax.vatRates[doc.product.taxClass] !== undefined) r = num(tax.vatRates[doc.product.taxClass]);
  else r = inclusive ? problem('noTaxClass') : zero;
  const onTop = gross.times(r).div(r.plus(1));
  let outputVat = zero;
  let withheld = zero;
  if (inclusive) {
    if (s === null) outputVat = unknown;
    else if (s.kind === 'flatRate') outputVat = gross.times(s.rate);
    else if (s.kind !== 'notRegistered') outputVat = onTop;
    if (s?.kind === 'marketplaceRemits') withheld = outputVat;
  }
  const netRevenue = gross.minus(outputVat);
  const base = (b: 'item' | 'gross' | 'net' | 'buyerPays'): D => {
    hit(`base ${b}`);
    if (b === 'item') return itemPrice;
    if (b === 'net')
      return !inclusive || s?.kind === 'notRegistered' ? gross : s === null ? unknown : gross.div(r.plus(1));
    return b === 'buyerPays' && !inclusive ? gross.times(one.plus(tax?.checkoutTax ?? 0)) : gross;
  };
  type Vat = { vat: 'none' | 'included' | 'added'; vatRate: number; recoverable: boolean | null };
  const netOf = (amount: D, v: Vat): D => (v.vat === 'included' ? amount.div(one.plus(v.vatRate)) : amount);
  const vatOn = (net: D, v: Vat): D => (v.vat === 'none' ? zero : part(v.vatRate, net));
  const isCost = (v: Vat): D => (v.recoverable === null ? vatIsCost : v.recoverable ? zero : one);
  const paidVat = (vat: D, cost: D): D => (vat.isZero() ? zero : cost.isZero() ? zero : vat.times(cost));
  const atCost = (line: Vat & { amount: number | null; currency: string }): D => {
    hit(`VAT ${line.vat}`);
    const net = inSales(netOf(num(line.amount), line), line.currency);
    return net.plus(paidVat(vatOn(net, line), isCost(line)));
  };
  /** VAT on landed purchases: recovered, or a cost of its own line. */
  let irrecoverableVat = zero;
  let recoverableVat = zero;
  const land = (net: D, v: Vat): void => {
    const vat = vatOn(net, v);
    if (vat.isZero()) return;
    irrecoverableVat = irrecoverableVat.plus(paidVat(vat, isCost(v)));
    recoverableVat = recoverableVat.plus(paidVat(vat, one.minus(isCost(v))));
  };

  // section 10
  let units = unknown;
  const demand = doc.demand;
  if (demand === null) blank('demand');
  else if (demand.kind === 'typed') units = num(demand.units);
  else if (demand.kind === 'marketShare') units = num(demand.marketUnits).times(num(demand.share));
  else if (!gross.isNaN()) {
    const rivals = demand.rivals.map((x) => num(x));
    const limit = D.min(gross, ...rivals).times(one.plus(demand.band));
    const running = rivals.filter((x) => within(x, limit)).length;
    units = within(gross, limit)
      ? num(demand.listingUnits)
          .times(demand.variationShare)
          .times(one.minus(demand.retailArmShare))
          .div(running + 1)
      : zero;
    hit(within(gross, limit) ? 'in the running' : 'out of the running');
  }
  if (demand !== null) hit(`demand ${demand.kind}`);

  // section 3
  const ships = doc.method === 'supplierShips';
  const components = doc.goods === null || doc.goods === 'none' ? [] : doc.goods;
  const retailOnly = components.length > 0 && components.every((c) => c.source.kind === 'retail');
  const Q = num(doc.orderQuantity ?? (ships || retailOnly ? 1 : null));
  let goods = doc.goods === null ? blank('goods') : zero;
  let cashback = zero;
  let perOrder = zero;
  if (components.length > 1) hit('bundle');
  for (const c of components) {
    const k = num(c.unitsInSoldPack).div(c.unitsInBoughtPack);
    const B = Q.times(k);
    const src = c.source;
    hit(`source ${src.kind}`);
    if (src.kind === 'quote') {
      const charges = sum(src.perOrder.map((o) => num(o.amount)));
      if (!charges.isZero()) perOrder = perOrder.plus(charges.times(fx(src.currency)));
      if (B.isNaN()) {
        goods = blank('goods');
        continue;
      }
      const row = src.priceBreaks.filter((b) => within(num(b.minQty), B)).at(-1);
      let unitPrice = unknown;
      const answered = row !== undefined && B.gte(num(src.minimumOrder).minus('1e-9'));
      if (row === undefined) problem('underFirstBreak');
      else if (B.lt(num(src.minimumOrder).minus('1e-9'))) problem('underMinimumOrder');
      else if (row.unitPrice === null) blank('goods');
      else unitPrice = num(row.unitPrice);
      const rate = unitPrice.isNaN() ? unknown : fx(src.currency);
      const net = netOf(unitPrice.plus(sum(src.extras.map((e) => num(e.amount)))), src)
        .times(k)
        .times(rate);
      // Without an answer the VAT on the goods has none either; a price left blank stays out of the sums.
      if (!answered || !unitPrice.isNaN()) land(net, src);
      goods = goods.plus(net);
    } else {
      if (src.shelfPrice === null) {
        goods = blank('goods');
        continue;
      }
      const p1 = shelfAfter(src, hit);
      const net1 = netOf(p1, src);
      const vat1 = vatOn(net1, src);
      const t = src.exempt ? 0 : src.salesTax;
      const p2 = net1.plus(vat1).plus(net1.times(t));
      const y = src.giftCard?.part ?? 0;
      const saved = num(src.giftCard?.discount ?? 0)
        .times(y)
        .times(p2);
      const cb =
        src.cashback === null
          ? zero
          : num(src.cashback.share)
              .times(src.cashback.taxCounts ? p2 : net1)
              .times(src.cashback.giftCardsCount ? 1 : one.minus(y));
      const rate = fx(src.currency);
      land(net1.times(k).times(rate), src);
      let delivery = zero;
      if (src.delivery !== null) {
        delivery = netOf(num(src.delivery.amount), src.delivery).times(fx(src.delivery.currency)).div(B);
        land(delivery.times(k), src.delivery);
      }
      if (src.giftCard) hit('gift card');
      if (src.cashback) hit('cashback');
      cashback = cashback.plus(cb.times(k).times(rate));
      goods = goods.plus(net1.plus(net1.times(t)).minus(saved).minus(cb).times(rate).plus(delivery).times(k));
    }
  }
  const buyingCosts =
    doc.goods === null
      ? zero
      : (perOrder.isZero() ? zero : perOrder.div(Q)).plus(part(doc.buyingSpread, goods));

  // section 4
  const STAGE = { origin: 0, main: 1, destination: 2, inbound: 3 } as const;
  const first = components[0]?.source;
  const rule = first?.kind === 'quote' ? first.incoterm : 'EXW';
  hit(`Incoterms ${rule}`);
  const paysFrom =
    rule === 'EXW'
      ? 0
      : ['FCA', 'FAS', 'FOB'].includes(rule)
        ? 1
        : ['CFR', 'CPT', 'CIF', 'CIP'].includes(rule)
          ? 2
          : 3;
  const insures = ['EXW', 'FCA', 'FAS', 'FOB', 'CFR', 'CPT'].includes(rule);
  const unitM3 =
    doc.product.sides === null
      ? unknown
      : num(doc.product.sides[0]).times(doc.product.sides[1]).times(doc.product.sides[2]).div(1e6);
  const kgUnit = num(doc.product.kg);
  const stage = [zero, zero, zero, zero];
  let insurance = zero;
  const route = doc.route;
  if (ships || route === 'none') hit('no route');
  else if (route === null || Q.isNaN()) blank('freight');
  else {
    const boxes = components.map((c) => (c.source.kind === 'quote' ? c.source.carton : null));
    const cartons = components.map((c, i) =>
      up(
        Q.times(c.unitsInSoldPack)
          .div(c.unitsInBoughtPack)
          .div(boxes[i]?.units ?? Number.NaN),
      ),
    );
    const allCartons = components.length > 0 && boxes.every((b) => b !== null);
    const loose = Q.times(one.plus(route.packingAllowance));
    const n = allCartons ? sum(cartons) : unknown;
    const boxed = (f: 'kg' | 'volumeM3'): D =>
      sum(cartons.map((x, i) => x.times(boxes[i]?.[f] ?? Number.NaN)));
    const kg = allCartons && !boxed('kg').isNaN() ? boxed('kg') : loose.times(kgUnit);
    const m3 = allCartons && !boxed('volumeM3').isNaN() ? boxed('volumeM3') : loose.times(unitM3);
    hit(allCartons ? 'cartons' : 'loose');
    for (const leg of route.legs) {
      if (!(leg.buyerPays ?? STAGE[leg.stage] >= paysFrom)) {
        hit('leg of the seller');
        continue;
      }
      const banded = leg.basis === 'perKg' && leg.bands.length > 0;
      if (leg.rate === null && !banded) {
        blank('freight');
        continue;
      }
      hit(`leg ${leg.basis}`);
      const rate = num(leg.rate);
      let cost: D;
      if (leg.basis === 'perUnit') cost = rate.times(Q);
      else if (leg.basis === 'perShipment') cost = rate;
      else if (leg.basis === 'perCarton') {
        if (n.isNaN() && doc.goods === null) {
          blank('freight');
          continue;
        }
        cost = n.isNaN() ? problem('noCarton') : rate.times(n);
      } else if (leg.basis === 'perKg') {
        let chargeable = max(kg, num(leg.minKg));
        if (leg.divisor !== null) chargeable = max(chargeable, m3.times(1e6).div(leg.divisor));
        if (chargeable.isNaN()) {
          blank('freight');
          continue;
        }
        let perKg = rate;
        if (banded) {
          const band = leg.bands.find((b) => within(chargeable, num(b.upToKg)));
          hit(band === undefined ? 'past the last weight band' : 'weight band');
          perKg = band === undefined ? problem('noWeightBand') : num(band.rate);
        }
        cost = perKg.times(chargeable);
      } else if (leg.basis === 'perContainer' && leg.usableM3 === null) cost = problem('noContainer');
      else {
        if (m3.isNaN()) {
          blank('freight');
          continue;
        }
        cost =
          leg.basis === 'perCbm'
            ? rate.times(max(m3, num(leg.minCbm)))
            : rate.times(up(m3.div(leg.usableM3 ?? Number.NaN)));
      }
      const whole = max(num(leg.minCharge), cost).times(one.plus(leg.fuelSurcharge));
      const net = inSales(netOf(whole, leg), leg.currency).div(Q);
      land(net, leg);
      const at = STAGE[leg.stage];
      stage[at] = (stage[at] as D).plus(net);
    }
    if (route.insuranceRate > 0 && insures) {
      hit('insurance');
      insurance = goods
        .plus(stage[0] as D)
        .plus(stage[1] as D)
        .times(route.insuranceRate);
    }
  }
  const freight = sum(stage);

  // section 5: fulfilment by method
  let fulfilment = zero;
  let theirs = false;
  const card = doc.rates.marketplace;
  const wrongCard = card !== null && card.currency !== doc.currency;
  const L = doc.typed;
  const steps = (
    table: { steps: { upToKg: number; fee: number | null }[]; stepKg: number | null; stepFee: number },
    kg: D,
  ): D => {
    const at = table.steps.find((x) => within(kg, num(x.upToKg)));
    if (at !== undefined) return num(at.fee);
    const last = table.steps.at(-1) as { upToKg: number; fee: number | null };
    hit(table.stepKg === null ? 'steps end' : 'past the last step');
    return table.stepKg === null
      ? unknown
      : num(last.fee).plus(up(kg.minus(last.upToKg).div(table.stepKg)).times(table.stepFee));
  };
  const mean = doc.season === null ? one : sum(doc.season.map(num)).div(12);
  const overYear = (months: readonly number[], bySales: boolean): D => {
    if (doc.saleMonth !== null) return num(months[doc.saleMonth - 1]);
    if (!bySales || doc.season === null) return sum(months.map(num)).div(12);
    hit('season');
    return sum(months.map((x, i) => num(doc.season?.[i]).div(mean).times(x))).div(12);
  };
  if (L.fulfilmentFee !== null) {
    hit('fulfilment typed');
    theirs = doc.method === 'warehouse';
    fulfilment = theirs ? round(num(L.fulfilmentFee)) : num(L.fulfilmentFee);
  } else if (doc.method === 'warehouse') {
    theirs = true;
    if (card === null) fulfilment = problem('noMarketplaceCard');
    else if (card.warehouse === null) fulfilment = problem('noWarehouse');
    else if (wrongCard) fulfilment = unknown;
    else if (doc.product.sides === null || doc.product.kg === null) fulfilment = blank('fulfilment');
    else {
      const [a, b, c] = doc.product.sides.map(num).sort((x, y) => y.cmp(x)) as [D, D, D];
      const counted = (t: { divisor: number | null }): D =>
        t.divisor === null ? kgUnit : max(kgUnit, a.times(b).times(c).div(t.divisor));
      const fits = (x: D, limit: number | null): boolean => limit === null || within(x, num(limit));
      const tier = card.warehouse.tiers.find(
        (t) =>
          fits(a, t.maxL) &&
          fits(b, t.maxW) &&
          fits(c, t.maxH) &&
          fits(counted(t), t.maxKg) &&
          fits(a.plus(b.plus(c).times(2)), t.maxLengthGirth),
      );
      if (tier === undefined) fulfilment = problem('noSizeTier');
      else if (tier.bands.length > 1 && itemPrice.isNaN()) fulfilment = unknown;
      else {
        const band = tier.bands.find((x) => x.upToPrice === null || within(itemPrice, num(x.upToPrice)));
        if (tier.bands.length > 1) hit('price band');
        const fee = steps((band as (typeof tier.bands)[number]).table, counted(tier).plus(tier.packagingKg));
        if (tier.divisor !== null && counted(tier).gt(kgUnit)) hit('volumetric');
        const addOns = num(doc.product.dangerous ? card.warehouse.addOns.dangerous : 0).plus(
          doc.product.oversize ? card.warehouse.addOns.oversize : 0,
        );
        fulfilment = fee.isNaN()
          ? problem('noSizeTier')
          : round(
              fee
                .plus(addOns)
                .plus(card.warehouse.peak === null ? zero : overYear(card.warehouse.peak, true)),
            );
        hit('warehouse fee');
      }
    }
  } else if (doc.method === 'ownDispatch') {
    const dispatch = doc.dispatch;
    if (dispatch === null || (dispatch !== 'none' && doc.product.kg === null))
      fulfilment = blank('fulfilment');
    else if (dispatch !== 'none') {
      hit('own dispatch');
      let postage = zero;
      let stepMissing = false;
      for (const z of dispatch.zones) {
        const parcelKg = kgUnit.plus(dispatch.packagingKg);
        const holds =
          z.postage.steps.find((x) => within(parcelKg, num(x.upToKg))) ??
          (z.postage.stepKg === null ? undefined : z.postage.steps.at(-1));
        if (holds?.fee === null) {
          postage = blank('fulfilment');
          stepMissing = true;
          break;
        }
        const fee = steps(z.postage, parcelKg);
        if (fee.isNaN()) {
          postage = problem('noPostageStep');
          stepMissing = true;
          break;
        }
        const net = inSales(netOf(fee, dispatch), z.postage.currency);
        postage = postage.plus(net.plus(paidVat(vatOn(net, dispatch), isCost(dispatch))).times(z.share));
      }
      fulfilment = postage;
      if (!stepMissing)
        for (const line of [dispatch.packaging, dispatch.pickAndPack])
          if (line !== null) fulfilment = fulfilment.plus(atCost(line));
    }
  } else if (doc.supplierDelivery === null) fulfilment = blank('fulfilment');
  else if (doc.supplierDelivery !== 'none') {
    hit('supplier ships');
    fulfilment = atCost(doc.supplierDelivery).div(Q);
  }

  // section 4 again: customs
  let supplierNet = zero;
  if (ships && doc.imported && doc.supplierDelivery === null) supplierNet = num(L.fulfilmentFee ?? 0);
  else if (ships && doc.imported && doc.supplierDelivery !== null && doc.supplierDelivery !== 'none')
    supplierNet = inSales(
      netOf(num(doc.supplierDelivery.amount), doc.supplierDelivery),
      doc.supplierDelivery.currency,
    ).div(Q);
  const cifValue = goods
    .plus(stage[0] as D)
    .plus(stage[1] as D)
    .plus(supplierNet)
    .plus(insurance);
  let customsValue = cifValue;
  let duty = zero;
  let dutyBlank = false;
  let importCharges = zero;
  let importVat = zero;
  if (doc.imported && rule !== 'DDP') {
    hit('imported');
    if (tax === null) {
      problem('noTaxCard');
      duty = importCharges = importVat = irrecoverableVat = recoverableVat = unknown;
    } else {
      if (tax.customsBasis === 'FOB') {
        hit('FOB basis');
        const inside = sum(
          components.map((c) => {
            if (
              c.source.kind !== 'quote' ||
              !['CFR', 'CPT', 'CIF', 'CIP', 'DAP', 'DPU', 'DDP'].includes(c.source.incoterm)
            )
              return zero;
            if (c.source.freightInPrice > 0) hit('freight inside the price');
            return inSales(num(c.source.freightInPrice), c.source.currency)
              .times(c.unitsInSoldPack)
              .div(c.unitsInBoughtPack);
          }),
        );
        customsValue = goods.plus(stage[0] as D).minus(inside);
      } else hit('CIF basis');
      const hs = doc.product.hsCode;
      const origin = doc.product.origin;
      let pct = zero;
      let perUnit = zero;
      let perKg = zero;
      if (L.dutyPct !== null) pct = num(L.dutyPct);
      else if (hs === null || origin === null) duty = blank('duty');
      else {
        const fitting = tax.duties.filter(
          (x) => hs.startsWith(x.heading) && (x.origins === null || x.origins.includes(origin)),
        );
        // The most exact heading rates it; for one origin before for all.
        const basic = fitting
          .filter((x) => !x.additional)
          .sort(
            (x, y) =>
              y.heading.length - x.heading.length || Number(y.origins !== null) - Number(x.origins !== null),
          )[0];
        if (basic === undefined) duty = problem('noDutyRate');
        for (const x of basic === undefined ? [] : [basic, ...fitting.filter((y) => y.additional)]) {
          pct = pct.plus(x.pct);
          perUnit = perUnit.plus(x.perUnit);
          perKg = perKg.plus(x.perKg);
          if (x.additional) hit('additional duty');
        }
      }
      if (!duty.isNaN()) {
        const limit = tax.dutyFreeLimit === null ? null : inSales(num(tax.dutyFreeLimit), tax.currency);
        if (limit?.isNaN()) duty = unknown;
        else if (limit !== null && within(customsValue.times(Q), limit)) {
          hit('under the duty-free limit');
          duty = customsValue.times(0);
        } else if (!perKg.isZero() && doc.product.kg === null) duty = blank('duty');
        else
          duty = customsValue
            .times(pct)
            .plus(inSales(perUnit, tax.currency))
            .plus(perKg.isZero() ? zero : inSales(perKg, tax.currency).times(kgUnit));
      }
      dutyBlank = blanks.has('duty');
      if (Q.isNaN() && tax.importCharges.length > 0) blank('duty');
      else
        for (const c of tax.importCharges) {
          const bound = (x: number | null): D | null => (x === null ? null : inSales(num(x), tax.currency));
          importCharges = importCharges.plus(
            clampTo(customsValue.times(Q).times(c.pct), bound(c.min), bound(c.max))
              .plus(inSales(num(c.flat), tax.currency))
              .div(Q),
          );
          hit('import charge');
        }
      const vr =
        L.importVatRate ??
        tax.importVatRates?.[doc.product.taxClass] ??
        tax.vatRates[doc.product.taxClass] ??
        null;
      if (
        tax.importVatRates !== null &&
        tax.importVatRates[doc.product.taxClass] === undefined &&
        vr !== null
      )
        hit('import VAT at the VAT rate of the class');
      if (vr === null) blank('importVat');
      else if (vr !== 0) {
        hit(`import VAT on ${tax.importVatBase}`);
        const on =
          tax.importVatBase === 'cif' ? cifValue.plus(importCharges).plus(stage[2] as D) : customsValue;
        importVat = on.plus(dutyBlank ? zero : duty).times(vr);
        if (vatIsCost.isNaN()) irrecoverableVat = recoverableVat = unknown;
        else if (vatIsCost.isZero()) {
          hit(doc.importVatPostponed ? 'postponed' : 'import VAT recovered');
          if (!doc.importVatPostponed) recoverableVat = recoverableVat.plus(importVat);
        } else irrecoverableVat = irrecoverableVat.plus(importVat);
      }
    }
  }
  const known = (name: string, x: D): D => (blanks.has(name) ? zero : x);
  let prep = zero;
  if (!ships && doc.prep !== 'none') {
    if (doc.prep === null) prep = blank('prep');
    else {
      const big = doc.product.oversize && doc.prep.oversize !== null;
      if (big) hit('oversize prep');
      prep = inSales(netOf(num(big ? doc.prep.oversize : doc.prep.standard), doc.prep), doc.prep.currency);
      land(prep, doc.prep);
    }
  }
  // A blank of the charges alone does not make a rate known that is not.
  const dutyKnown = duty.isNaN() && dutyBlank ? zero : duty;
  const landedCost = sum([
    goods,
    buyingCosts,
    freight,
    insurance,
    dutyKnown,
    importCharges,
    known('prep', prep),
    irrecoverableVat,
  ]);
  const landedCash = landedCost.plus(recoverableVat).plus(cashback);

  // section 5: marketplace fees
  let referral = zero;
  let itemFee = zero;
  let payment = zero;
  if (wrongCard) {
    problem('cardCurrency');
    referral = itemFee = payment = unknown;
  }
  const own = wrongCard ? null : card;
  const category = own?.categories.find((c) => c.key === doc.product.category) ?? null;
  if (!doc.referralApplies) referral = zero;
  else if (L.referralPct !== null) {
    hit('referral typed');
    referral = round(base(category?.referral.base ?? 'gross').times(L.referralPct));
  } else if (!wrongCard) {
    if (own === null) referral = problem('noMarketplaceCard');
    else if (doc.product.category === null) referral = blank('referral');
    else if (category === null) referral = problem('categoryNotOnCard');
    else {
      const rule5 = category.referral;
      const on = base(rule5.base);
      let fee = zero;
      if (rule5.mode === 'whole') {
        const tier = rule5.tiers.find((t) => t.upTo === null || within(on, num(t.upTo)));
        fee = on.times((tier as { pct: number }).pct);
      } else {
        let from = zero;
        for (const t of rule5.tiers) {
          const to = t.upTo === null ? on : min(on, num(t.upTo));
          if (to.gt(from)) fee = fee.plus(to.minus(from).times(t.pct));
          from = t.upTo === null ? from : num(t.upTo);
        }
        if (on.isNaN()) fee = unknown;
      }
      const bounded = clamp(fee, rule5.min, rule5.max);
      hit(`referral ${rule5.mode}`);
      if (!bounded.eq(fee)) hit(bounded.gt(fee) ? 'referral minimum' : 'referral maximum');
      referral = round(bounded);
    }
  }
  if (L.itemFee !== null || own !== null)
    itemFee = round(num(L.itemFee ?? category?.itemFee ?? own?.itemFee ?? 0));
  const pay = own?.payment ?? null;
  if (L.paymentPct !== null || L.paymentFixed !== null || pay !== null)
    payment = round(
      base(pay?.base ?? 'gross')
        .times(L.paymentPct ?? pay?.pct ?? 0)
        .plus(L.paymentFixed ?? pay?.fixed ?? 0),
    );

  // storage
  const C =
    doc.monthsHeld !== null ? num(doc.monthsHeld).times(2) : units.gt('1e-9') ? Q.div(units) : unknown;
  let storage = zero;
  let storesTheirs = false;
  if (!ships && doc.storage !== 'none') {
    const mine = doc.storage !== null && doc.storage !== 'card' ? doc.storage.own : null;
    storesTheirs = mine === null;
    if (doc.storage === null && L.storagePerM3Month === null) storage = blank('storage');
    else if (unitM3.isNaN()) storage = blank('storage');
    else if (doc.monthsHeld === null && units.lte('1e-9')) storage = problem('zeroUnits');
    else if (C.isNaN()) storage = blank('storage');
    else {
      let rate = unknown;
      let bands: { fromMonths: number; toMonths: number | null; rate: number }[] = [];
      if (L.storagePerM3Month !== null) rate = num(L.storagePerM3Month);
      else if (mine !== null) rate = atCost(mine);
      else if (card === null || card.storage === null) problem('noStorageRates');
      else if (!wrongCard) {
        rate = overYear(card.storage.perM3Month, false);
        bands = card.storage.longStay;
      }
      const F = (x: number | null): D =>
        x === null || C.lte(0) ? zero : max(zero, C.minus(x)).pow(2).div(C.times(2));
      if (bands.some((x) => C.gt(x.fromMonths))) hit('long stay');
      storage = unitM3.times(
        rate
          .times(C)
          .div(2)
          .plus(sum(bands.map((x) => F(x.fromMonths).minus(F(x.toMonths)).times(x.rate)))),
      );
      hit(mine === null ? 'storage by card' : "storage of one's own");
    }
  }
  const ofTheirs = {
    referral: known('referral', referral),
    itemFee,
    payment,
    surcharges: zero,
    subscription: zero,
    fulfilment: theirs ? known('fulfilment', fulfilment) : zero,
    storage: storesTheirs ? known('storage', storage) : zero,
  };
  for (const x of card?.surcharges ?? []) {
    hit('surcharge');
    ofTheirs.surcharges = ofTheirs.surcharges.plus(round(sum(x.of.map((k) => ofTheirs[k])).times(x.pct)));
  }
  const monthly = L.subscriptionMonthly ?? card?.subscriptionMonthly ?? 0;
  let subscription = zero;
  if (monthly > 0) {
    hit('subscription');
    const over = doc.accountUnitsPerMonth === null ? units : num(doc.accountUnitsPerMonth);
    if (over.lte('1e-9')) subscription = problem('zeroUnits');
    else if (over.isNaN()) subscription = blank('subscription');
    else subscription = wrongCard && L.subscriptionMonthly === null ? unknown : num(monthly).div(over);
  }
  ofTheirs.subscription = known('subscription', subscription);
  const feeVatRate = card === null || card.feeVat.treatment === 'none' ? 0 : card.feeVat.rate;
  if (card !== null) hit(`VAT on fees ${card.feeVat.treatment}`);
  const bears = (k: keyof typeof ofTheirs): boolean =>
    feeVatRate > 0 && card !== null && card.feeVat.bears.includes(k);
  const keys = Object.keys(ofTheirs) as (keyof typeof ofTheirs)[];
  const bearing = sum(keys.filter(bears).map((k) => ofTheirs[k]));
  const costRate = feeVatRate === 0 ? zero : vatIsCost.times(feeVatRate);
  const feeVat = feeVatRate === 0 || bearing.isZero() ? zero : bearing.times(costRate);

  // sections 6 and 8: returns, payout
  const terms = doc.returns;
  if (terms === null) blank('returns');
  const q = terms === null || terms === 'none' ? 0 : (terms.rate ?? 0);
  const charged = card?.feeVat.treatment === 'charged' ? feeVatRate : 0;
  const back = card?.refund.back ?? { referral: 1, itemFee: 0, payment: 0, surcharges: 0 };
  let returns = zero;
  let returnedInPayout = zero;
  if (q > 0 && terms !== null && terms !== 'none') {
    hit('returns');
    // What is not given back bears no VAT, whatever its rate.
    const w = (k: keyof typeof ofTheirs, x: D, rate: D): D =>
      x.isZero() ? zero : x.times(bears(k) ? one.plus(rate) : one);
    const given = (['referral', 'itemFee', 'payment', 'surcharges'] as const).map(
      (k) => [k, part(back[k], ofTheirs[k])] as const,
    );
    const referralBack = part(back.referral, ofTheirs.referral);
    let a = zero;
    if (card !== null && card.refund.adminPct > 0) {
      const raw = referralBack.times(card.refund.adminPct);
      a = round(card.refund.adminMax === null ? raw : min(raw, num(card.refund.adminMax)));
      hit(
        card.refund.adminMax !== null && raw.gt(card.refund.adminMax)
          ? 'refund fee at its maximum'
          : 'refund fee',
      );
    }
    const h = terms.handling === null ? zero : atCost(terms.handling);
    const x = terms.disposal === null ? zero : atCost(terms.disposal);
    const allowance = netRevenue
      .minus(sum(given.map(([k, fee]) => w(k, fee, costRate))))
      .plus(w('referral', a, costRate))
      .plus(h)
      .plus(x.times(1 - terms.resaleShare))
      .minus(part(terms.resaleShare, landedCost));
    returns = allowance.times(q);
    if (returns.isNegative()) hit('returns that pay');
    returnedInPayout = sum(given.map(([k, fee]) => w(k, fee, num(charged))))
      .minus(w('referral', a, num(charged)))
      .times(q);
  }
  const feesCharged = sum(keys.map((k) => ofTheirs[k])).plus(charged === 0 ? zero : bearing.times(charged));
  const payout = gross.minus(withheld).times(one.minus(q)).minus(feesCharged).plus(returnedInPayout);
  let currencyConversion = zero;
  if (doc.conversionSpread > 0 && doc.currency !== doc.homeCurrency) {
    hit(payout.gt(0) ? 'conversion' : 'conversion of nothing');
    currencyConversion = max(zero, payout).times(doc.conversionSpread);
  }
  const breakage = doc.breakage === 0 ? zero : landedCost.times(doc.breakage).div(one.minus(doc.breakage));

  // section 7
  const adVat =
    card === null || card.advertVat.treatment === 'none' || card.advertVat.rate === 0
      ? zero
      : vatIsCost.times(card.advertVat.rate);
  const V = adVat.plus(1);
  let cpc = unknown;
  let conversion = unknown;
  let adCostPerAdSale = unknown;
  let adverts = zero;
  let adShare = one;
  if (doc.adverts === null) adverts = blank('adverts');
  else if (doc.adverts === 'none') adShare = zero;
  else {
    const ks = doc.adverts.keywords;
    adShare = num(doc.adverts.adShare);
    const total = sum(ks.map((k) => num(k.expectedClicks)));
    const byClicks = total.gt(0);
    hit(byClicks ? 'keywords by clicks' : 'keywords equally');
    const weigh = (pick: (k: (typeof ks)[number]) => D): D =>
      sum(ks.map((k) => pick(k).times(byClicks ? num(k.expectedClicks).div(total) : one.div(ks.length))));
    cpc = weigh((k) => num(k.low).plus(num(k.high).minus(num(k.low)).times(k.weight)));
    conversion = weigh((k) => num(k.conversionRate));
    if (conversion.gte('1e-9')) adCostPerAdSale = cpc.times(V).div(conversion);
    if (adShare.isZero()) hit('no units by adverts');
    else if (conversion.lt('1e-9')) adverts = problem('zeroConversion');
    else adverts = adCostPerAdSale.times(adShare);
  }

  // section 8
  const other = sum(doc.otherPerUnit.map((o) => atCost(o.line)));
  if (otherIsOpen) blank('other');
  const proceeds = netRevenue
    .minus(sum(keys.filter((k) => k !== 'fulfilment' && k !== 'storage').map((k) => ofTheirs[k])))
    .minus(feeVat)
    .minus(known('fulfilment', fulfilment))
    .minus(known('storage', storage))
    .minus(currencyConversion);
  const contribution = proceeds
    .minus(landedCost)
    .minus(breakage)
    .minus(known('returns', returns))
    .minus(other)
    .plus(doc.freeExtraProfit);
  const unitProfit = contribution.minus(known('adverts', adverts));
  const P = num(doc.payoutEveryDays ?? card?.payoutEveryDays);
  const wait = num(doc.payoutDelayDays ?? card?.payoutDelayDays);
  const credit = first?.creditDays ?? 0;
  let cycle = P.div(2).plus(wait).minus(credit);
  if (!ships) {
    const lead = first === undefined ? unknown : num(first.leadDays ?? (first.kind === 'retail' ? 0 : null));
    const deposit = num(first?.kind === 'quote' ? (first.depositShare ?? 1) : 1);
    const transit = route === 'none' ? zero : num(route?.transitDays);
    const inbound = route === 'none' || route === null ? zero : num(route.inboundDays);
    cycle = deposit
      .times(lead)
      .plus(transit)
      .plus(inbound)
      .minus(one.minus(deposit).times(credit))
      .plus(C.times(30.4375).div(2))
      .plus(P.div(2))
      .plus(wait);
  }
  const turns = cycle.gt(0)
    ? min(num(12).div(C), num(365).div(cycle))
    : cycle.lte(0)
      ? num(12).div(C)
      : unknown;
  if (cycle.lte(0)) hit('paid before paying');
  const acos = ratio(cpc.div(conversion.lt('1e-9') ? unknown : conversion), gross);
  const ifPays = (x: D): D => (contribution.gt(0) ? x : unknown);
  const highestCpc = ifPays(contribution.times(conversion).div(V));
  const lowestConversion = ifPays(ratio(cpc.times(V), contribution));
  const show = (name: string, x: D): D => (blanks.has(name) ? unknown : x);
  return {
    blanks,
    problems,
    cifValue,
    lines: {
      outputVat,
      irrecoverableVat,
      feeVat,
      goods,
      buyingCosts,
      prep: show('prep', prep),
      freight: freight.isZero() ? show('freight', freight) : freight,
      insurance,
      duty: duty.isZero() ? show('duty', duty) : duty,
      importCharges,
      referral: show('referral', referral),
      itemFee,
      payment,
      surcharges: ofTheirs.surcharges,
      subscription: show('subscription', subscription),
      currencyConversion,
      fulfilment: show('fulfilment', fulfilment),
      storage: show('storage', storage),
      returns: show('returns', returns),
      breakage,
      other: otherIsOpen && other.isZero() ? unknown : other,
      freeExtra: num(doc.freeExtraProfit === 0 ? 0 : -doc.freeExtraProfit),
      adverts: show('adverts', adverts),
    },
    figures: {
      itemPrice,
      gross,
      netRevenue,
      proceeds,
      landedCost,
      landedCash,
      contribution,
      unitProfit,
      margin: ratio(unitProfit, netRevenue),
      marginOnShelfPrice: ratio(unitProfit, gross),
      roi: ratio(unitProfit, landedCost),
      markup: ratio(netRevenue, landedCost).minus(1),
      priceMultiple: ratio(gross, goods),
      expectedMonthlyUnits: units,
      profitPerMonth: unitProfit.times(units).minus(doc.monthlyFixedCosts),
      coverMonths: C,
      cashCycleDays: cycle,
      turnsPerYear: turns,
      yearlyReturnOnCash: ratio(unitProfit, landedCash).times(turns),
      costOfHolding:
        doc.rates.benchmark === null
          ? unknown
          : landedCash.times(doc.rates.benchmark.rate).times(max(zero, cycle)).div(365),
      payout,
      recoverableVat,
      cashbackToCome: cashback,
      cifValue,
      customsValue,
      importVat,
      adCostPerAdSale,
      acos,
      tacos: acos.times(adShare),
      breakEvenAcos: ifPays(ratio(contribution, gross.times(V))),
      highestCpc,
      highestCpcBlended: ratio(highestCpc, adShare),
      lowestConversion,
      lowestConversionBlended: lowestConversion.times(adShare),
    },
  };
}

function shelfAfter(s: RetailPurchase, hit: (name: string) => void): D {
  const ordered = s.reordered
    ? s.discounts
    : [...s.discounts.filter((x) => x.kind === 'percent'), ...s.discounts.filter((x) => x.kind === 'coupon')];
  let p = num(s.shelfPrice);
  for (const x of ordered) {
    hit(`discount ${x.kind}${s.reordered ? ' reordered' : ''}`);
    p =
      x.kind === 'percent'
        ? p.times(one.minus(num(x.share)))
        : max(zero, p.minus(num(x.amount).div(x.covers)));
  }
  return p;
}
