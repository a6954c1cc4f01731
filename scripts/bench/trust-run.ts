import { COVERAGE_CASES, coverageOf } from '../../core/testing/coverage';
import {
  equalSuppliersTrust,
  retestTrust,
  skewedTrust,
  toleranceTrust,
  typicalTrust,
} from '../../core/testing/lot-trust';
import {
  caseName,
  RESISTANCE_CASES,
  resistanceCoverage,
  twoStepCoverage,
} from '../../core/testing/resistance-coverage';
import {
  addTally,
  falseShares,
  newTally,
  type TrustCount,
  trustOf,
} from '../../core/testing/trust';
import { type Fault, FAULTS } from '../../core/testing/trust-bench';

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
  console.log('DC resistance from load-on, 1 000 draws each, or no figure:');
  for (const one of RESISTANCE_CASES)
    for (const delayS of [1, 10, 30] as const)
      for (const onBeat of [false, true]) {
        const found = resistanceCoverage(one, delayS, 1000, { onBeat });
        const said =
          found.refused === 1
            ? 'no figure'
            : `${percent(found.coverage)}, mean error ${percent(found.bias, 2)}`;
        console.log(
          `  ${`${caseName(one)}, after ${delayS} s${onBeat ? ', on the beat' : ''}`.padEnd(76)} ${said}`,
        );
      }
  for (const intervalS of [0.05, 0.1, 0.2, 0.5]) {
    const found = twoStepCoverage({ intervalS, noiseV: 0.001, leadMohm: 0 }, 1000);
    console.log(
      `  ${`two steps, a row every ${intervalS} s`.padEnd(76)} ${found.refused === 1 ? 'no figure' : percent(found.coverage)}`,
    );
  }
}

function line(name: string, count: TrustCount): void {
  const { met, notMet } = falseShares(count);
  const shares = Object.entries(count.outcomes)
    .filter(([, n]) => n > 0)
    .map(([outcome, n]) => `${outcome} ${percent(n / count.cells, 1)}`)
    .join(', ');
  const decided = count.outcomes.met + count.outcomes.notMet;
  console.log(
    `  ${name.padEnd(14)} ${String(count.cells).padStart(6)} cells: ${shares}; of ${decided} decided, false met ${percent(met)}, false not met ${percent(notMet)}`,
  );
}

/** So many decided cells make a line, and so many lots are tried for them. */
const DECIDED = 400;
const MOST_LOTS = 36;
const PER_LOT = 400;

/** One fault by itself, in as many lots as it takes, or until it shows that hardly any is decided. */
function faultLine(fault: Fault): void {
  const sum = newTally();
  const count = () => sum.byFault.get(fault)!;
  const decided = () => count().outcomes.met + count().outcomes.notMet;
  for (let lot = 0; lot < MOST_LOTS && (lot === 0 || decided() < DECIDED); lot++) {
    addTally(sum, trustOf(1, PER_LOT, 100 + lot, fault));
    if (lot >= 3 && (decided() / (lot + 1)) * MOST_LOTS < DECIDED) break;
  }
  line(fault, count());
  if (fault !== 'swapped') return;
  const { suspected, twice } = sum;
  console.log(
    `    caught by the step under load against the AC resistance: ${suspected.right} of ${count().cells}, and ${suspected.wrong} of ${sum.sound.cells} sound ones suspected; where a second log of the cell is there, ${twice.caught} of ${twice.cells} disagree with it; a cell scanned at its place is not swapped`,
  );
}

/** How often a verdict is wrong: 10 000 cells in 25 lots, from file to verdict; then fault by fault. */
function trust(): void {
  const started = performance.now();
  const { all, sound } = trustOf(25, PER_LOT);
  console.log('From file to verdict, 10 000 cells, a tenth of the runs with a fault:');
  line('all', all);
  line('sound', sound);
  console.log(`Each fault by itself, until ${DECIDED} are decided:`);
  for (const fault of FAULTS) faultLine(fault);
  console.log('Lots as a whole:');
  for (const cells of [8, 60, 240]) {
    const { met, notMet, tooClose, bare } = typicalTrust(2000, cells);
    console.log(
      `  typical claim just true, ${cells} cells: met ${percent(met)}, not met ${percent(notMet)}, too close ${percent(tooClose)}; by the scatter alone ${percent(bare)} would be decided`,
    );
    console.log(
      `  tolerance limit of ${cells} cells holds in ${percent(toleranceTrust(cells > 100 ? 300 : 1000, cells))} (95 % is stated)`,
    );
  }
  for (const cells of [60, 240])
    for (const [shape, share] of Object.entries(skewedTrust(1000, cells)))
      console.log(`  ${shape} lot of ${cells} called mixed: ${percent(share)}`);
  for (const shareShort of [0.001, 0.01, 0.02]) {
    const { first, best, stated } = retestTrust(3000, shareShort);
    console.log(
      `  sampled lots of which ${percent(shareShort, 1)} are short, accepted by first results: ${percent(first)} (${percent(stated)} is stated); by the best of three ${percent(best)}`,
    );
  }
  for (const lots of [2, 3, 6])
    console.log(
      `  four equal suppliers of ${lots} lots each told apart in ${percent(equalSuppliersTrust(1000, lots))} of labs`,
    );
  console.log(`  in ${((performance.now() - started) / 1000).toFixed(0)} s`);
}

const alone = FAULTS.find((fault) => fault === process.env.DUSK_BENCH_LINE);
if (alone) faultLine(alone);
else {
  if (which !== 'trust') coverage();
  if (which !== 'coverage') trust();
}
