import { combineBudget, type Figure, type Estimate, NO_UNCERTAINTY, budgetPart } from '../units';

/** Kept with every inverter efficiency. */
export const INVERTER_METHOD = { name: 'inverter-efficiency', version: 1 };

/** What an inverter made of a discharge. */
export interface ThroughInverter {
  /** AC over DC energy, 0 to 1. */
  efficiency: Figure;
  /** DC minus AC energy, Wh. */
  losses: Figure;
  /** Mean power lost, W; null without a duration. */
  meanLossW: number | null;
}

/** Either, or why the two energies cannot belong together. */
export type InverterOrReason =
  { result: ThroughInverter; reason?: undefined } | { result: null; reason: string };

/**
 * DC energy given by the cells against AC energy behind the inverter (handbook, chapter 3).
 * @param dc Wh with its standard uncertainty. @param ac the same. @param durationS under load.
 */
export function throughInverter(
  dc: Figure,
  ac: Pick<Estimate, 'value' | 'standardUncertainty'>,
  durationS: number | null,
): InverterOrReason {
  const share = ac.value / dc.value;
  const [uDc, uAc] = [dc.standardUncertainty, ac.standardUncertainty];
  if (uDc === null || uAc === null)
    return { result: null, reason: `Of one of the two energies there is ${NO_UNCERTAINTY}.` };
  const uShare = share * Math.hypot(uDc / dc.value, uAc / ac.value);
  if (share - 2 * uShare > 1)
    return {
      result: null,
      reason: `${ac.value.toPrecision(4)} Wh behind the inverter is more than the ${dc.value.toPrecision(4)} Wh that went in: not the same run, or a meter that reads wrong.`,
    };
  const shared = {
    bound: 'exact' as const,
    method: INVERTER_METHOD,
    inputs: [
      { name: 'DC energy', value: dc.value, unit: 'Wh' as const },
      { name: 'AC energy', value: ac.value, unit: 'Wh' as const },
    ],
    findings: [],
    span: dc.span,
  };
  return {
    result: {
      meanLossW: durationS && durationS > 0 ? ((dc.value - ac.value) * 3600) / durationS : null,
      efficiency: {
        ...shared,
        quantity: 'inverterEfficiency',
        value: share,
        unit: '1',
        steps: ['AC energy behind the inverter over DC energy from the cells.'],
        ...combineBudget([
          budgetPart('dcEnergy', (share * uDc) / dc.value, 'of the log'),
          budgetPart('acEnergy', (share * uAc) / ac.value, 'of the AC meter'),
        ]),
      },
      losses: {
        ...shared,
        quantity: 'inverterLosses',
        value: dc.value - ac.value,
        unit: 'Wh',
        steps: ['DC energy from the cells minus AC energy behind the inverter.'],
        ...combineBudget([
          budgetPart('dcEnergy', uDc, 'of the log'),
          budgetPart('acEnergy', uAc, 'of the AC meter'),
        ]),
      },
    },
  };
}
