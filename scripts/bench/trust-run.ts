import { COVERAGE_CASES, coverageOf } from '../../core/testing/coverage';
import { falseShares, type TrustCount, trustOf } from '../../core/testing/trust';

const [which] = process.argv.slice(2).concat(process.env.DUSK_BENCH_PART ?? []);
const percent = (share: number, digits = 2) => `${(100 * share).toFixed(digits)} %`;

/** How often ±2u holds the true capacity: 5 000 draws each. */
function coverage(): void {
  console.log('Coverage of ±2u, 5 000 draws each (93 to 99.9 % is wanted):');
  for (const one of COVERAGE_CASES) {
    const { coverage: share, bias, normalised, open } = coverageOf(one, 5000);
    console.log(
      `  ${one.name.padEnd(58)} ${percent(share)}, mean error ${percent(bias, 3)}, errors ${normalised.toFixed(2)} u${open > 0 ? `, only a bound ${percent(open, 1)}` : ''}`,
    );
  }
}

function line(name: string, count: TrustCount): void {
  const { met, notMet } = falseShares(count);
  const shares = Object.entries(count.outcomes)
    .filter(([, n]) => n > 0)
    .map(([outcome, n]) => `${outcome} ${percent(n / count.cells, 1)}`)
    .join(', ');
  console.log(
    `  ${name.padEnd(14)} ${String(count.cells).padStart(6)} cells: ${shares}; of the decided, false met ${percent(met)}, false not met ${percent(notMet)}`,
  );
}

/** How often a verdict is wrong: 10 000 cells in 25 lots, from file to verdict. */
function trust(): void {
  const started = performance.now();
  const { all, sound, byFault } = trustOf(25, 400);
  console.log('From file to verdict, 10 000 cells, a tenth of the runs with a fault:');
  line('all', all);
  line('sound', sound);
  for (const [fault, count] of byFault) if (fault !== 'none') line(fault, count);
  console.log(`  in ${((performance.now() - started) / 1000).toFixed(0)} s`);
}

if (which !== 'trust') coverage();
if (which !== 'coverage') trust();
