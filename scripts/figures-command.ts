import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { figuresOfLog, type LogFigures, LogRefusal, readLog } from '@dusk-tally/core/evidence';
import { type BudgetComponent, expandedUncertainty, type Finding } from '@dusk-tally/core/units';

interface Element {
  file: string;
  status: 'read' | 'refused';
  message: string | null;
  rows: number | null;
  findings: { code: string; text: string }[];
  sections: { kind: string; fromS: number; toS: number; ah: number }[];
  capacity: {
    cutoffV: number;
    ah: number | null;
    wh: number | null;
    bound: string | null;
    U: number | null;
    meanVoltageV: number | null;
    /** Standard uncertainties, largest first. */
    budget: BudgetComponent[] | null;
  }[];
  resistanceMohm: { r1s: number | null; r10s: number | null; r30s: number | null };
  twoStepDcMohm: number | null;
  leaderShare: number[] | null;
  /** By the instrument’s own counter over the discharge, its start subtracted. */
  counter: { ah: number; startAh: number } | null;
  efficiency: LogFigures['efficiency'];
  temperature: LogFigures['temperature'];
  restBeforeS: number | null;
  meanCurrentA: number | null;
}

const USAGE =
  'Usage: npm run -s figures -- --cutoff V [--cutoff V …] [--lead-mohm MΩ] [--rated-ah AH] FILE…';

function positive(text: string | undefined, name: string): number | undefined {
  if (text === undefined) return undefined;
  const value = Number(text.replace(',', '.'));
  if (!(value > 0) || !Number.isFinite(value)) {
    console.error(`--${name}: expected a number above 0, found “${text}”.\n${USAGE}`);
    process.exit(2);
  }
  return value;
}

function options() {
  try {
    const { values, positionals } = parseArgs({
      allowPositionals: true,
      options: {
        cutoff: { type: 'string', multiple: true },
        'lead-mohm': { type: 'string' },
        'rated-ah': { type: 'string' },
      },
    });
    if (positionals.length === 0) throw new Error('No file named.');
    return {
      files: positionals,
      cutoffsV: (values.cutoff ?? []).map((text) => positive(text, 'cutoff')!),
      leadMohm: positive(values['lead-mohm'], 'lead-mohm'),
      ratedAh: positive(values['rated-ah'], 'rated-ah'),
    };
  } catch (error) {
    console.error(`${(error as Error).message}\n${USAGE}`);
    process.exit(2);
  }
}

const plain = (findings: Finding[]) => findings.map(({ code, text }) => ({ code, text }));

function refused(file: string, message: string, code: string): Element {
  console.error(`${file}: refused. ${message}`);
  return {
    file,
    status: 'refused',
    message,
    rows: null,
    findings: [{ code, text: message }],
    sections: [],
    capacity: [],
    resistanceMohm: { r1s: null, r10s: null, r30s: null },
    twoStepDcMohm: null,
    leaderShare: null,
    counter: null,
    efficiency: null,
    temperature: null,
    restBeforeS: null,
    meanCurrentA: null,
  };
}

function elementOf(file: string, rows: number, figures: LogFigures, cutoffsV: number[]): Element {
  const { resistance } = figures;
  return {
    file,
    status: 'read',
    message: null,
    rows,
    findings: plain(figures.findings),
    sections: figures.sections.map(({ kind, fromS, toS, ah }) => ({ kind, fromS, toS, ah })),
    capacity: cutoffsV.map((cutoffV, i) => {
      const found = figures.capacities?.[i];
      return {
        cutoffV,
        ah: found?.capacity.value ?? null,
        wh: found?.energy.value ?? null,
        bound: found?.capacity.bound ?? null,
        U: found ? expandedUncertainty(found.capacity) : null,
        meanVoltageV: found?.meanVoltage.value ?? null,
        budget: found?.capacity.budget ?? null,
      };
    }),
    resistanceMohm: {
      r1s: resistance.r1s.figure?.value ?? null,
      r10s: resistance.r10s.figure?.value ?? null,
      r30s: resistance.r30s.figure?.value ?? null,
    },
    twoStepDcMohm: resistance.twoStep.figure?.value ?? null,
    leaderShare: figures.leaderShare,
    counter: figures.counter ? { ah: figures.counter.ah, startAh: figures.counter.startAh } : null,
    efficiency: figures.efficiency,
    temperature: figures.temperature,
    restBeforeS: figures.restBeforeS,
    meanCurrentA: figures.meanCurrentA,
  };
}

const { files, cutoffsV, leadMohm, ratedAh } = options();
const elements = files.map((file) => {
  try {
    const log = readLog(readFileSync(file));
    return elementOf(
      file,
      log.rows,
      figuresOfLog(log, { cutoffsV, accuracy: null, leadMohm, ratedAh }),
      cutoffsV,
    );
  } catch (error) {
    if (error instanceof LogRefusal) return refused(file, error.message, error.code);
    const { code, message } = error as NodeJS.ErrnoException;
    if (code) return refused(file, `The file could not be opened: ${message}`, 'cannot-open');
    throw error;
  }
});
process.stdout.write(`${JSON.stringify(elements, null, 2)}\n`);
process.exitCode = elements.some((element) => element.status === 'refused') ? 1 : 0;
