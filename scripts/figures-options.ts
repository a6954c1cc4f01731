import { parseArgs } from 'node:util';

const USAGE =
  'Usage: npm run -s figures -- --cutoff V [--cutoff V …] [--lead-mohm MΩ] [--lead-u-mohm MΩ] [--rated-ah AH] [--claim-rate-it IT] [--claim-temperature-c C] [--window FROM-TO] [--load-only] FILE…';

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
        'load-only': { type: 'boolean' },
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
      loadOnly: values['load-only'] ?? false,
    };
  } catch (error) {
    console.error(`${(error as Error).message}\n${USAGE}`);
    process.exit(2);
  }
}

export const {
  files,
  cutoffsV,
  leadMohm,
  leadUncertaintyMohm,
  ratedAh,
  claimRateIt,
  claimTemperatureC,
  window,
  loadOnly,
} = options();
