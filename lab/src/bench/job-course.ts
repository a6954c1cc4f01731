import {
  type CourseConditions,
  type ExpectedStep,
  expectedCourse,
  type Leg,
  type ProgramStep,
  programOf,
  reachableCurrent,
  RecipeProblem,
  socAtRest,
} from '@dusk-tally/core/bench';
import { openCircuitVoltage } from '@dusk-tally/core/simulator';
import type { RecipeVersionRow } from '@dusk-tally/store';
import type { BenchChannel } from './bench-channels';
import type { LotConditions } from './conditions';

/** A rest at least this long is spent off the channel, s. */
export const OFF_CHANNEL_S = 6 * 3600;

/** What a job is planned with. */
export interface JobCourse {
  program: ProgramStep[];
  /** State of charge it comes with, 0 to 1. */
  stateOfCharge: number;
  /** Of the cell with no channel in mind. */
  course: ExpectedStep[];
  /** Somebody must be there so long from its start: through the first charge of a cell nobody knows; Infinity for all of it. */
  watchedS: number;
  problem: string | null;
}

/** State of charge from a voltage read at rest; a third of it where none was read. */
const socOf = (conditions: LotConditions, voltageV: number | null): number =>
  voltageV === null ? 0.33 : socAtRest(conditions.chemistry, voltageV);

export function courseConditions(
  conditions: LotConditions,
  stateOfCharge: number,
  channel: BenchChannel | null,
): CourseConditions {
  const startV = openCircuitVoltage(conditions.chemistry, 0.5);
  const reach = (claimed: number | null) =>
    channel ? reachableCurrent(channel.limits, startV, claimed).amps : undefined;
  return {
    chemistry: conditions.chemistry,
    capacityAh: conditions.ratedAh,
    stateOfCharge,
    tauS: null,
    chargeA: reach(conditions.maxChargeA),
    dischargeA: reach(conditions.maxDischargeA),
  };
}

/** How a recipe goes with a cell of a lot. @param isKnown it was charged here before. */
export function jobCourse(
  recipe: Pick<RecipeVersionRow, 'steps' | 'attendedOnly'>,
  conditions: LotConditions,
  { voltageV, isKnown }: { voltageV: number | null; isKnown: boolean },
): JobCourse {
  const stateOfCharge = socOf(conditions, voltageV);
  try {
    const program = programOf(recipe.steps, conditions);
    const course = expectedCourse(program, courseConditions(conditions, stateOfCharge, null));
    const firstCharge = course.find(({ kind }) => kind === 'charge');
    const watchedS = recipe.attendedOnly ? Infinity : !isKnown && firstCharge ? firstCharge.toS : 0;
    return { program, stateOfCharge, course, watchedS, problem: null };
  } catch (error) {
    if (error instanceof RecipeProblem)
      return { program: [], stateOfCharge, course: [], watchedS: 0, problem: error.message };
    throw error;
  }
}

/** Why a channel cannot run a program; null where it can. */
export function channelProblem(
  program: readonly ProgramStep[],
  { limits }: BenchChannel,
  conditions: LotConditions,
): string | null {
  const charging = program.some(({ kind }) => kind === 'charge');
  const discharging = program.some(({ kind }) => kind === 'discharge' || kind === 'pulse');
  if (charging && !limits.canCharge) return 'it cannot charge';
  if (discharging && !limits.canDischarge) return 'it cannot discharge';
  if (conditions.chargeV > limits.maxV) return `it takes at most ${limits.maxV} V`;
  const least = Math.min(
    ...program.flatMap((step) =>
      step.kind === 'charge'
        ? [step.taperA]
        : step.kind === 'discharge' && step.mode === 'current'
          ? [step.set]
          : [],
    ),
  );
  return least < limits.minA ? `it sets no less than ${limits.minA} A` : null;
}

/** Parts of a job that need a channel: long rests are spent off it. */
export function legsOf(
  { program, stateOfCharge, course, watchedS }: JobCourse,
  conditions: LotConditions,
  channels: readonly BenchChannel[],
): Leg[] {
  const perChannel = channels.map((channel) => {
    if (channelProblem(program, channel, conditions)) return null;
    // Unattended hours need a cut-off the instrument enforces and a fuse (handbook, Safety).
    if (watchedS < Infinity && (!channel.limits.enforcesCutoff || channel.limits.fuseA === null))
      return null;
    return expectedCourse(program, courseConditions(conditions, stateOfCharge, channel));
  });
  const breaks = program.flatMap((step, i) =>
    step.kind === 'rest' && step.seconds >= OFF_CHANNEL_S ? [i] : [],
  );
  const edges = [-1, ...breaks, program.length];
  return edges.slice(1).flatMap((until, part): Leg[] => {
    const from = edges[part]! + 1;
    if (from >= until) return [];
    const before = program[edges[part]!];
    const nominalS = Math.max(1, course[until - 1]!.toS - course[from]!.fromS);
    return [
      {
        durationS: perChannel.map((own) =>
          own ? own[until - 1]!.toS - own[from]!.fromS : Infinity,
        ),
        attendedShare:
          watchedS === Infinity ? 1 : part === 0 ? Math.min(1, watchedS / nominalS) : 0,
        restBeforeS: before?.kind === 'rest' ? before.seconds : 0,
      },
    ];
  });
}
