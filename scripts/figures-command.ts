import { closeSync, openSync, readFileSync, readSync, statSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { isMainThread } from 'node:worker_threads';
import {
  carryFigureToClaim,
  type CurveShape,
  figuresOfLog,
  type LogFigures,
  LogRefusal,
  readLog,
  type ReadLog,
  readLongLog,
  shapeOf,
  unknownTesterAccuracy,
  windowCapacity,
} from '@dusk-tally/core/evidence';
import { fileSource } from '../lab/src/compute/file-source';
import { scanInTwo, SecondThread, serveAsHelper } from '../lab/src/compute/second-thread';
import {
  type BudgetComponent,
  budgetKind,
  expandedUncertainty,
  type Finding,
} from '@dusk-tally/core/units';

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
  /** Why a load-on resistance is null. */
  resistanceReasons: { r1s: string | null; r10s: string | null; r30s: string | null };
  /** ΔV / ΔI of each cell of a string between two loads, mΩ. */
  stringResistance: {
    lowA: number;
    highA: number;
    mohm: number[];
    standsOut: boolean[];
  } | null;
  /** Knee, end slope, relaxation and peaks of dQ/dV. */
  shape:
    | (Pick<CurveShape, 'knee' | 'endSlopeVPerAh' | 'relaxationV'> & {
        peaks: { voltageV: number; ahPerV: number }[];
      })
    | null;
  /** Charge between two voltages, with --window. */
  window: {
    fromV: number;
    toV: number;
    ah: number | null;
    U: number | null;
    reason: string | null;
  } | null;
  /** Capacity to the first cut-off carried to the claim’s conditions, with --rated-ah and --claim-… */
  atClaim: {
    ah: number | null;
    U: number | null;
    corrections: { name: string; factor: number; text: string }[];
    reasons: string[];
  } | null;
  /** By the instrument’s own counter over the discharge, its start subtracted. */
  counter: { ah: number; startAh: number } | null;
  efficiency: LogFigures['efficiency'];
  temperature: LogFigures['temperature'];
  restBeforeS: number | null;
  meanCurrentA: number | null;
}

const USAGE =
  'Usage: npm run -s figures -- --cutoff V [--cutoff V …] [--lead-mohm MΩ] [--lead-u-mohm MΩ] [--rated-ah AH] [--claim-rate-it IT] [--claim-temperature-c C] [--window FROM-TO] FILE…';

function positive(text: string | undefined, name: string): number | undefined {
  if (text === undefined) return undefined;
  const value = Number(text.replace(',', '.'));
  if (!(value > 0) || !Number.isFinite(value)) {
    console.error(`--${name}: expected a number above 0, found “${text}”.\n${USAGE}`);
    process.exit(2);
  }
  return value;
}

/** `3.3-3.0` as two voltages. */
function windowOf(text: string | undefined): { fromV: number; toV: number } | null {
  if (text === undefined) return null;
  const [from, to] = text.split('-');
  return { fromV: positive(from ?? '', 'window')!, toV: positive(to ?? '', 'window')! };
}

function options() {
  try {
    const { values, positionals } = parseArgs({
      allowPositionals: true,
      options: {
        cutoff: { type: 'string', multiple: true },
        'lead-mohm': { type: 'string' },
        'lead-u-mohm': { type: 'string' },
        'rated-ah': { type: 'string' },
        'claim-rate-it': { type: 'string' },
        'claim-temperature-c': { type: 'string' },
        window: { type: 'string' },
      },
    });
    if (positionals.length === 0) throw new Error('No file named.');
    return {
      files: positionals,
      cutoffsV: (values.cutoff ?? []).map((text) => positive(text, 'cutoff')!),
      leadMohm: positive(values['lead-mohm'], 'lead-mohm'),
      leadUncertaintyMohm: positive(values['lead-u-mohm'], 'lead-u-mohm'),
      ratedAh: positive(values['rated-ah'], 'rated-ah'),
      claimRateIt: positive(values['claim-rate-it'], 'claim-rate-it'),
      claimTemperatureC: positive(values['claim-temperature-c'], 'claim-temperature-c'),
      window: windowOf(values.window),
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
    resistanceReasons: { r1s: null, r10s: null, r30s: null },
    stringResistance: null,
    shape: null,
    window: null,
    atClaim: null,
    counter: null,
    efficiency: null,
    temperature: null,
    restBeforeS: null,
    meanCurrentA: null,
  };
}

function shapeElement(log: ReadLog, figures: LogFigures): Element['shape'] {
  if (!figures.discharge) return null;
  const { knee, endSlopeVPerAh, relaxationV, incremental } = shapeOf(
    log.trace,
    figures.sections,
    figures.discharge,
    ratedAh ?? null,
  );
  return { knee, endSlopeVPerAh, relaxationV, peaks: incremental?.peaks ?? [] };
}

function windowElement({ trace }: ReadLog, { discharge }: LogFigures): Element['window'] {
  if (!window) return null;
  const most = trace.currentA?.reduce((a, b) => Math.max(a, Math.abs(b)), 0) ?? 0;
  const { figure, reason } = windowCapacity(trace, discharge, window, {
    accuracy: unknownTesterAccuracy(most),
    leadMohm,
    leadUncertaintyMohm,
  });
  return {
    ...window,
    ah: figure?.value ?? null,
    U: figure ? expandedUncertainty(figure) : null,
    reason: reason ?? null,
  };
}

function atClaimElement(figures: LogFigures): Element['atClaim'] {
  const raw = figures.capacities?.[0];
  if (!raw || !ratedAh || (claimRateIt === undefined && claimTemperatureC === undefined))
    return null;
  const charge = figures.sections.findLast(
    ({ kind, toS }) => kind === 'charge' && toS <= figures.discharge!.loadOnS,
  );
  const carried = carryFigureToClaim(
    raw.capacity,
    {
      rateIt: claimRateIt ?? null,
      cutoffV: raw.cutoffV,
      temperatureC: claimTemperatureC ?? null,
    },
    {
      meanCurrentA: figures.meanCurrentA,
      ratedAh,
      meanTemperatureC: figures.temperature?.meanC ?? null,
      restAfterChargeS: charge ? figures.discharge!.loadOnS - charge.toS : null,
      restBeforeS: figures.restBeforeS,
    },
  );
  return carried.comparable
    ? {
        ah: carried.estimate.value,
        U: expandedUncertainty(carried.estimate),
        corrections: carried.corrections.map(({ kind, factor, text }) => ({
          name: budgetKind(kind).words,
          factor,
          text,
        })),
        reasons: [],
      }
    : { ah: null, U: null, corrections: [], reasons: carried.reasons };
}

function elementOf(file: string, log: ReadLog, figures: LogFigures): Element {
  const { rows } = log;
  const { resistance, stringCells } = figures;
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
    resistanceReasons: {
      r1s: resistance.r1s.reason ?? null,
      r10s: resistance.r10s.reason ?? null,
      r30s: resistance.r30s.reason ?? null,
    },
    stringResistance: stringCells && {
      lowA: stringCells.lowA,
      highA: stringCells.highA,
      mohm: stringCells.cells.map(({ figure }) => figure.value),
      standsOut: stringCells.cells.map(({ standsOut }) => standsOut),
    },
    shape: shapeElement(log, figures),
    window: windowElement(log, figures),
    atClaim: atClaimElement(figures),
    counter: figures.counter ? { ah: figures.counter.ah, startAh: figures.counter.startAh } : null,
    efficiency: figures.efficiency,
    temperature: figures.temperature,
    restBeforeS: figures.restBeforeS,
    meanCurrentA: figures.meanCurrentA,
  };
}

/** The second thread is told nothing: it serves the first. */
const NOTHING: ReturnType<typeof options> = {
  files: [],
  cutoffsV: [],
  leadMohm: undefined,
  leadUncertaintyMohm: undefined,
  ratedAh: undefined,
  claimRateIt: undefined,
  claimTemperatureC: undefined,
  window: null,
};

const {
  files,
  cutoffsV,
  leadMohm,
  leadUncertaintyMohm,
  ratedAh,
  claimRateIt,
  claimTemperatureC,
  window,
} = isMainThread ? options() : NOTHING;
/** Larger files are read piece by piece. */
const LARGEST_WHOLE = 48 * 1024 * 1024;

/** From this size on a second thread reads half of the rows, bytes. */
const WORTH_TWO = 8 * 1024 * 1024;

/** A file in memory that both threads see. */
function sharedBytes(file: string, size: number): Uint8Array {
  const bytes = new Uint8Array(new SharedArrayBuffer(size));
  const handle = openSync(file, 'r');
  try {
    for (let at = 0; at < size;) {
      const read = readSync(handle, bytes, at, size - at, at);
      if (read === 0) return bytes.slice(0, at);
      at += read;
    }
    return bytes;
  } finally {
    closeSync(handle);
  }
}

function logOf(file: string): ReadLog {
  const { size } = statSync(file);
  const wanted = { ratedAh: ratedAh ?? null };
  if (size <= LARGEST_WHOLE) {
    if (size < WORTH_TWO) return readLog(readFileSync(file), wanted);
    const second = new SecondThread(new URL(import.meta.url));
    return readLog(sharedBytes(file, size), { ...wanted, scan: scanInTwo(second) });
  }
  const source = fileSource(file);
  try {
    const { log } = readLongLog(source, { ...wanted, cutoffsV, leadMohm });
    return log;
  } finally {
    source.close();
  }
}

function elementFor(file: string): Element {
  try {
    const log = logOf(file);
    return elementOf(
      file,
      log,
      figuresOfLog(log, { cutoffsV, accuracy: null, leadMohm, leadUncertaintyMohm, ratedAh }),
    );
  } catch (error) {
    if (error instanceof LogRefusal) return refused(file, error.message, error.code);
    const { code, message } = error as NodeJS.ErrnoException;
    if (code) return refused(file, `The file could not be opened: ${message}`, 'cannot-open');
    throw error;
  }
}

// Started again as the second thread it only serves the first.
if (!serveAsHelper()) {
  const elements = files.map(elementFor);
  process.stdout.write(`${JSON.stringify(elements, null, 2)}\n`);
  process.exitCode = elements.some((element) => element.status === 'refused') ? 1 : 0;
}
