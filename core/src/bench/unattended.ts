import { courseS, type ExpectedStep } from './expected-course';
import type { ChannelLimits } from './reachable-current';
import { discharges, type ProgramStep } from './recipe';

/** A reason why a run may not be left alone. */
export interface UnattendedNeed {
  code: 'noCutoff' | 'noFuse';
  text: string;
}

/**
 * What a channel lacks before a program may run on it with nobody there (handbook, Safety): a fuse,
 * and, where it discharges, a cut-off the instrument itself enforces.
 */
export function unattendedNeeds(
  program: readonly ProgramStep[],
  limits: Pick<ChannelLimits, 'enforcesCutoff' | 'fuseA'>,
): UnattendedNeed[] {
  const needs: UnattendedNeed[] = [];
  if (discharges(program) && !limits.enforcesCutoff)
    needs.push({
      code: 'noCutoff',
      text: 'Unattended it needs a cut-off the instrument itself enforces.',
    });
  if (limits.fuseA === null)
    needs.push({ code: 'noFuse', text: 'Unattended it needs a fuse in line.' });
  return needs;
}

/**
 * How long from its start somebody must be there, s (handbook, chapter 2, "Planning the bench"): all
 * of a recipe that says so; through the first charge of a cell nobody knows; else 0.
 */
export function attendanceS(
  course: readonly ExpectedStep[],
  { attendedOnly, isKnown }: { attendedOnly: boolean; isKnown: boolean },
): number {
  if (attendedOnly) return courseS(course);
  const firstCharge = course.find(
    ({ kind, toA }) => kind === 'charge' || (kind === 'toStorage' && toA > 0),
  );
  return !isKnown && firstCharge ? firstCharge.toS : 0;
}

/** A run that is to start, and for how long somebody will be there. */
export interface UnattendedRun {
  program: readonly ProgramStep[];
  course: readonly ExpectedStep[];
  limits: Pick<ChannelLimits, 'enforcesCutoff' | 'fuseA'>;
  attendedOnly: boolean;
  isKnown: boolean;
  /** Without a break from now on, s; 0 where nobody is there. */
  attendedForS: number;
}

const clock = (s: number): string => {
  const minutes = Math.round(s / 60);
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')} h`;
};

/** Why a run may not start now because it would go on with nobody there; empty where it may. */
export function unattendedReasons(run: UnattendedRun): { code: string; text: string }[] {
  const { program, course, limits, attendedOnly, isKnown, attendedForS } = run;
  const wholeS = courseS(course);
  const watched = attendanceS(course, { attendedOnly, isKnown });
  const ends =
    attendedForS > 0
      ? ` It takes ${clock(watched)}, and somebody is there for ${clock(attendedForS)}.`
      : '';
  if (watched > attendedForS)
    return [
      {
        code: 'unattended',
        text: attendedOnly
          ? `This recipe runs only while somebody is there.${ends}`
          : `The first charge of a cell nobody knows runs only while somebody is there.${ends}`,
      },
    ];
  if (wholeS <= attendedForS) return [];
  return unattendedNeeds(program, limits);
}
