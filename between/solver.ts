/** HiGHS, an open solver compiled to WebAssembly, as the solver that a purse asks. */
import type { Highs, Model, ModelData } from 'highs';
import type { Mip, MipRow, Solved, Solver } from '../core/purse/model.ts';

/** The solver on a loaded library: one model a question, given back at once. */
export const solverOf =
  (highs: Highs): Solver =>
  (mip, seconds) => {
    const model = highs.createModel(modelOf(highs, mip));
    try {
      model.options.set({ output_flag: false, time_limit: seconds, mip_rel_gap: 0, mip_abs_gap: 1e-9 });
      if (mip.start !== null) model.setSolution({ colValue: Float64Array.from(mip.start) });
      model.run();
      return solvedOf(highs, model);
    } finally {
      model.dispose();
    }
  };

function modelOf(highs: Highs, { objective, free, rows }: Mip): ModelData {
  const entries = rows.reduce((n, r) => n + r.columns.length, 0);
  const starts = new Int32Array(rows.length + 1);
  const indices = new Int32Array(entries);
  const values = new Float64Array(entries);
  let at = 0;
  rows.forEach((row, i) => {
    starts[i] = at;
    row.columns.forEach((c, k) => {
      indices[at] = c;
      values[at++] = row.values[k] as number;
    });
  });
  starts[rows.length] = at;
  const [numCols, numRows] = [objective.length, rows.length];
  const { integer, continuous } = highs.constants.variableType;
  const bound = (of: (r: MipRow) => number): Float64Array =>
    Float64Array.from(rows, (r) => Math.max(-highs.infinity, Math.min(highs.infinity, of(r))));
  return {
    numCols,
    numRows,
    sense: highs.constants.objectiveSense.maximize,
    colCost: Float64Array.from(objective),
    colLower: new Float64Array(numCols),
    colUpper: Float64Array.from(objective, (_, i) => (i < free ? highs.infinity : 1)),
    rowLower: bound((r) => r.lower),
    rowUpper: bound((r) => r.upper),
    matrix: { format: 'csr', numRows, numCols, starts, indices, values },
    integrality: Int32Array.from(objective, (_, i) => (i < free ? continuous : integer)),
  };
}

/** A solution is there, as the library says it. */
const FEASIBLE = 2;
function solvedOf(highs: Highs, model: Model): Solved {
  const status = model.getModelStatus();
  const { optimal, infeasible } = highs.constants.modelStatus;
  if (status === infeasible) return { status: 'infeasible', x: null, gap: null };
  if (Number(model.info.get('primal_solution_status')) !== FEASIBLE)
    return { status: 'outOfTime', x: null, gap: null };
  const x = [...model.getSolution().colValue];
  if (status === optimal) return { status: 'best', x, gap: 0 };
  const gap = Number(model.info.get('mip_gap'));
  return { status: 'outOfTime', x, gap: Number.isFinite(gap) ? gap : null };
}
