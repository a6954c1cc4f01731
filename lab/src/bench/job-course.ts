import {
  channelProblem,
  type CourseConditions,
  courseS,
  type ExpectedStep,
  expectedCourse,
  type Leg,
  type ProgramStep,
  programOf,
  reachOf,
  RecipeProblem,
  attendanceS,
  socAtRest,
  unattendedNeeds,
} from '@dusk-tally/core/bench';
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
  /** Somebody must be there so long from its start, s. */
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
  const reach = channel ? reachOf(channel.limits, conditions) : null;
  return {
    chemistry: conditions.chemistry,
    capacityAh: conditions.ratedAh,
    stateOfCharge,
    tauS: null,
    chargeA: reach?.charge.amps,
    dischargeA: reach?.discharge.amps,
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
    const needed = attendanceS(course, { attendedOnly: recipe.attendedOnly, isKnown });
    return { program, stateOfCharge, course, watchedS: needed, problem: null };
  } catch (error) {
    if (error instanceof RecipeProblem)
      return { program: [], stateOfCharge, course: [], watchedS: 0, problem: error.message };
    throw error;
  }
}

/** Parts of a job that need a channel: long rests are spent off it. */
export function legsOf(
  { program, stateOfCharge, course, watchedS }: JobCourse,
  conditions: LotConditions,
  channels: readonly BenchChannel[],
): Leg[] {
  const perChannel = channels.map((channel) => {
    if (channelProblem(program, channel.limits, conditions)) return null;
    if (watchedS < courseS(course) && unattendedNeeds(program, channel.limits).length > 0)
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
          watchedS >= courseS(course) ? 1 : part === 0 ? Math.min(1, watchedS / nominalS) : 0,
        restBeforeS: before?.kind === 'rest' ? before.seconds : 0,
      },
    ];
  });
}
