import { type BudgetComponent, combineBudget } from '../units';
import { studentQuantile } from './beta';

/** Probability of ±2 standard uncertainties of a normal quantity: 95.45 %. */
const UPPER = 0.97725;
/** Fewer degrees of freedom than this widen a budget they carry more than this share of. */
const FEW = 10;
const SHARE = 0.2;

/** A component known from repeats or residuals, with how many of them are free. */
export interface FewComponent extends BudgetComponent {
  /** Degrees of freedom; absent where the component does not come from repeats. */
  degrees?: number;
}

/**
 * Student’s factor for ±2u: how much wider u has to be for ν degrees of freedom.
 * @example studentFactor(1) // 6.98
 */
export const studentFactor = (degrees: number): number => studentQuantile(UPPER, degrees) / 2;

/**
 * Root sum of squares where some components come from few repeats (JCGM 100, annex G): where those
 * with fewer than ten degrees of freedom carry more than a fifth of u_c², u_c is widened so that
 * 2·u is t·u_c with the 95.45 % point of Student’s t for the effective degrees of freedom
 * (Welch–Satterthwaite). The component from few repeats carries what was added, and says so.
 */
export function combineFew(components: readonly FewComponent[]): ReturnType<typeof combineBudget> {
  const bare = components.map(({ degrees: _degrees, ...part }) => part);
  const combined = combineBudget(bare);
  const total = combined.standardUncertainty ** 2;
  const few = components.filter(
    ({ degrees, standardUncertainty }) =>
      degrees !== undefined && degrees < FEW && standardUncertainty > 0,
  );
  const fewSquares = few.reduce((sum, { standardUncertainty: u }) => sum + u * u, 0);
  if (!(fewSquares > SHARE * total)) return combined;
  const weighed = components.reduce(
    (sum, { standardUncertainty: u, degrees }) =>
      degrees === undefined ? sum : sum + u ** 4 / degrees,
    0,
  );
  const effective = (total * total) / weighed;
  const wanted = (studentFactor(effective) ** 2 - 1) * total + fewSquares;
  const factor = Math.sqrt(wanted / fewSquares);
  return combineBudget(
    components.map(({ degrees, ...part }) =>
      degrees !== undefined && degrees < FEW
        ? {
            ...part,
            standardUncertainty: part.standardUncertainty * factor,
            basis: `${part.basis}; widened by ${factor.toPrecision(3)} for ${degrees.toFixed(0)} degree(s) of freedom (Student)`,
          }
        : part,
    ),
  );
}
