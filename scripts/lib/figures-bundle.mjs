import { existsSync, mkdirSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './paths.mjs';
import { ensureNodeModules } from './setup.mjs';

const FOLDER = join(ROOT, 'scripts', 'dist');
export const FIGURES_FILE = join(FOLDER, 'figures.mjs');
const INPUTS_FILE = join(FOLDER, 'figures-inputs.json');

const markOf = (path) => {
  const { size, mtimeMs } = statSync(join(ROOT, path));
  return `${size} ${mtimeMs}`;
};

/** Whether the bundle is of the sources as they are. */
function isFresh() {
  if (!existsSync(FIGURES_FILE) || !existsSync(INPUTS_FILE)) return false;
  try {
    const inputs = JSON.parse(readFileSync(INPUTS_FILE, 'utf8'));
    return Object.entries(inputs).every(([path, mark]) => markOf(path) === mark);
  } catch {
    return false;
  }
}

/** Bundles the figures command where it is missing or its sources changed. @returns its path. */
export async function ensureFiguresBundle() {
  if (isFresh()) return FIGURES_FILE;
  await ensureNodeModules();
  const { build } = await import('esbuild');
  const { metafile, outputFiles } = await build({
    absWorkingDir: ROOT,
    entryPoints: ['scripts/figures-command.ts'],
    outfile: FIGURES_FILE,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    metafile: true,
    write: false,
    logLevel: 'warning',
  });
  mkdirSync(FOLDER, { recursive: true });
  const put = (path, content) => {
    // Whole or not at all: another command may be reading it.
    writeFileSync(`${path}.${process.pid}`, content);
    renameSync(`${path}.${process.pid}`, path);
  };
  put(FIGURES_FILE, outputFiles[0].contents);
  const inputs = Object.keys(metafile.inputs).map((path) => [path, markOf(path)]);
  put(INPUTS_FILE, JSON.stringify(Object.fromEntries(inputs)));
  return FIGURES_FILE;
}
