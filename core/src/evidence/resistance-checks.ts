import { type Finding, NO_UNCERTAINTY } from '../units';

/** Most that a sound measurement’s DC figure is above its AC one (handbook, chapter 3). */
const MOST_TIMES_AC = 12;
/** Beyond this no cell and no joint explains it: the figure holds the tester’s own leads. */
const LEADS_TIMES_AC = 60;

/** AC and DC resistance of one cell, mΩ, as far as they are known. */
export interface ResistancePair {
  acMohm: number | null;
  /** Shortest DC delay there is. */
  dcMohm: number | null;
  /** Standard uncertainties, mΩ. */
  acU?: number | null;
  dcU?: number | null;
  /** AC reading over the bolt or bar: it holds the joint. */
  acHoldsJoint?: boolean;
}

/**
 * What cannot be true together of a cell’s AC and DC resistance (handbook, chapter 3,
 * "Resistance", sanity). AC above DC by more than both uncertainties, or DC above 12 × AC.
 */
export function checkResistances(pair: ResistancePair): Finding[] {
  const { acMohm: ac, dcMohm: dc } = pair;
  if (ac === null || dc === null || !(ac > 0)) return [];
  // Without both uncertainties only what no uncertainty could explain is said.
  const [acU, dcU] = [pair.acU ?? null, pair.dcU ?? null];
  const U = acU === null || dcU === null ? Infinity : 2 * Math.hypot(acU, dcU);
  const shown = `AC ${ac.toPrecision(3)} mΩ, DC ${dc.toPrecision(3)} mΩ`;
  if (ac - dc > U)
    return [
      {
        code: 'ac-above-dc',
        text: pair.acHoldsJoint
          ? `${shown}: the AC reading was taken over the joint and is above the DC one. Read it on the terminal itself.`
          : `${shown}: AC above DC cannot be the cell. Suspect the probes’ contact, or a DC figure whose leads were subtracted twice.`,
        severity: 'warning',
      },
    ];
  if (dc > LEADS_TIMES_AC * ac)
    return [
      {
        code: 'dc-holds-leads',
        text: `${shown}: ${Math.round(dc / ac)} times as much. This is a tester’s built-in figure that includes its own leads; it says nothing about the cell.`,
        severity: 'warning',
      },
    ];
  if (dc > MOST_TIMES_AC * ac)
    return [
      {
        code: 'dc-far-above-ac',
        text: `${shown}: ${(dc / ac).toFixed(0)} times as much, more than ${MOST_TIMES_AC}. Suspect a contact or leads: check the joint’s torque and where the voltage is read.`,
        severity: 'warning',
      },
    ];
  return [];
}

/** What a person knows of a joint. */
export type Answer = 'yes' | 'no' | 'unknown';

/** One of the three facts that tell a joint from a cell. */
export interface JointFact {
  question: string;
  answer: Answer;
  text: string;
  /** What the answer speaks for. */
  speaksFor: 'joint' | 'cell' | 'neither';
}

/** Whether the joint or the cell is the likelier cause, with the facts. */
export interface JointJudgement {
  suspect: 'joint' | 'cell' | 'open';
  facts: JointFact[];
  advice: string;
}

/** What is known of a cell that looks bad under load. */
export interface JointEvidence {
  /** Robust z of its AC resistance at the terminals against the lot; null when unknown. */
  acZ: number | null;
  acMohm: number | null;
  lotAcMohm: number | null;
  /** DC resistance before and after the joint was tightened again, mΩ, with the later one’s U. */
  tightened: { beforeMohm: number; afterMohm: number; expandedMohm: number | null } | null;
  /** Neighbours on the same bar that look bad too; null when it ran alone or nothing is known. */
  badNeighbours: string[] | null;
  /** Voltage was read inside the tester. */
  readInsideTester: boolean;
}

const ORDINARY_Z = 3.5;
/** A drop that shrank by so much went away with the tightening. */
const WENT_AWAY = 0.15;

/**
 * Cell or connection? The three facts side by side, and what they speak for (handbook, chapter 3).
 * One fact for the joint is enough to suspect it: "re-tighten and repeat" comes before blame.
 */
export function judgeJoint(evidence: JointEvidence): JointJudgement {
  const facts = [acFact(evidence), tightenedFact(evidence), neighbourFact(evidence)];
  const forJoint = facts.filter(({ speaksFor }) => speaksFor === 'joint').length;
  const forCell = facts.filter(({ speaksFor }) => speaksFor === 'cell').length;
  const tightened = evidence.tightened !== null;
  if (forJoint > 0)
    return {
      suspect: 'joint',
      facts,
      advice: tightened
        ? 'The tightening is what changed: take the later result, and write down the torque.'
        : 'Suspect the joint. Clean it, tighten it to the model’s torque, and repeat before blaming the cell.',
    };
  if (forCell > 0 && tightened)
    return {
      suspect: 'cell',
      facts,
      advice: 'The joint was made again and the drop stayed: it is the cell.',
    };
  return {
    suspect: 'open',
    facts,
    advice: evidence.readInsideTester
      ? 'Voltage was read inside the tester: at high current that says nothing about the cell. Read it on the terminals, re-tighten and repeat.'
      : 'Not told apart yet: re-tighten and repeat before blaming the cell.',
  };
}

function acFact({ acZ, acMohm, lotAcMohm }: JointEvidence): JointFact {
  const question = 'Is its AC resistance at the terminals ordinary?';
  if (acMohm === null || acZ === null)
    return {
      question,
      answer: 'unknown',
      text: acMohm === null ? 'No AC reading of this cell.' : 'Too few AC readings in its lot.',
      speaksFor: 'neither',
    };
  const shown = `${acMohm.toPrecision(3)} mΩ${lotAcMohm === null ? '' : `, the lot ${lotAcMohm.toPrecision(3)} mΩ`}`;
  return acZ <= ORDINARY_Z
    ? { question, answer: 'yes', text: shown, speaksFor: 'joint' }
    : { question, answer: 'no', text: `${shown}, z = ${acZ.toFixed(1)}`, speaksFor: 'cell' };
}

function tightenedFact({ tightened }: JointEvidence): JointFact {
  const question = 'Did the drop go away after re-tightening?';
  if (!tightened)
    return {
      question,
      answer: 'unknown',
      text: 'Not re-tightened and repeated yet.',
      speaksFor: 'neither',
    };
  const { beforeMohm, afterMohm, expandedMohm } = tightened;
  const text = `${beforeMohm.toPrecision(3)} mΩ before, ${afterMohm.toPrecision(3)} mΩ after`;
  const fell = beforeMohm - afterMohm;
  if (expandedMohm === null)
    return {
      question,
      answer: 'unknown',
      text: `${text}; ${NO_UNCERTAINTY}.`,
      speaksFor: 'neither',
    };
  return fell > Math.max(WENT_AWAY * beforeMohm, expandedMohm)
    ? { question, answer: 'yes', text, speaksFor: 'joint' }
    : { question, answer: 'no', text, speaksFor: 'cell' };
}

function neighbourFact({ badNeighbours }: JointEvidence): JointFact {
  const question = 'Do neighbours on the same bar look bad too?';
  if (badNeighbours === null)
    return {
      question,
      answer: 'unknown',
      text: 'It was loaded alone, not in a string.',
      speaksFor: 'neither',
    };
  return badNeighbours.length > 0
    ? {
        question,
        answer: 'yes',
        text: `${badNeighbours.join(' and ')} beside it.`,
        speaksFor: 'joint',
      }
    : { question, answer: 'no', text: 'Its neighbours are ordinary.', speaksFor: 'neither' };
}
