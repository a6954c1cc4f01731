import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  channelCorrection,
  type ChannelResult,
  fitChannelEffects,
  gaugeStudy,
} from '@dusk-tally/core/evidence';
import { fitLinear, fUpperTail, seededRandom } from '@dusk-tally/core/statistics';
import { normals } from '../testing/normals';

interface Study {
  results: ChannelResult[];
  truth: Map<string, number>;
}

/** An unbalanced study: every cell on a few channels, so that all of them connect. */
function study(seed: number, biases: number[], noise: number, cells = 14): Study {
  const draw = normals(seed);
  const random = seededRandom(seed + 7919).uniform;
  const results: ChannelResult[] = [];
  for (let c = 0; c < cells; c++) {
    const holds = 100 + 3 * draw();
    const visits = 2 + Math.floor(3 * random());
    for (let v = 0; v < visits; v++) {
      const j = v === 0 ? c % biases.length : Math.floor(random() * biases.length);
      const value = holds * Math.exp(biases[j]! + noise * draw());
      results.push({ cell: `c${c}`, channel: `k${j}`, value });
    }
  }
  // A control cell on every channel keeps any draw connected.
  biases.forEach((bias, j) =>
    results.push({
      cell: 'control',
      channel: `k${j}`,
      value: 50 * Math.exp(bias + noise * draw()),
    }),
  );
  const centre = biases.reduce((a, b) => a + b, 0) / biases.length;
  return { results, truth: new Map(biases.map((bias, j) => [`k${j}`, bias - centre])) };
}

describe('two-way fit of cells and channels', () => {
  test('agrees with a regression on dummy variables', () => {
    const { results } = study(3, [0.035, 0, -0.002, 0.001, 0.004], 0.002);
    const { fit } = fitChannelEffects(results, { robust: false });
    const cells = [...new Set(results.map((r) => r.cell))];
    const channels = [...new Set(results.map((r) => r.channel))].sort();
    // Sum-to-zero coding: the last channel is minus the sum of the others.
    const rows = results.map((r) => [
      ...cells.map((cell) => Number(cell === r.cell)),
      ...channels
        .slice(0, -1)
        .map((channel) => (r.channel === channels.at(-1) ? -1 : Number(channel === r.channel))),
    ]);
    const whole = fitLinear(
      rows,
      results.map((r) => Math.log(r.value)),
    )!;
    channels.slice(0, -1).forEach((channel, j) => {
      const found = fit!.channels.find((c) => c.channel === channel)!;
      const k = cells.length + j;
      expect(Math.log1p(found.effect)).toBeCloseTo(whole.coefficients[k]!, 10);
      expect(found.standardError).toBeCloseTo(Math.sqrt(whole.covariance[k]![k]!), 10);
    });
    expect(fit!.repeatability).toBeCloseTo(Math.sqrt(whole.residualVariance), 10);
    expect(fit!.degreesOfFreedom).toBe(whole.degreesOfFreedom);
  });

  test('recovers known biases within their stated error in 95 % of 200 studies', () => {
    const biases = [0.035, 0.004, -0.006, 0.002, 0, -0.003];
    let [within, all] = [0, 0];
    for (let seed = 1; seed <= 200; seed++) {
      const { results, truth } = study(seed, biases, 0.0025);
      for (const { channel, effect, standardError } of fitChannelEffects(results).fit!.channels) {
        all++;
        // 2.05 is Student's t for the 25 or so degrees of freedom these studies have.
        if (Math.abs(Math.log1p(effect) - truth.get(channel)!) <= 2.05 * standardError) within++;
      }
    }
    const share = within / all;
    expect(share).toBeGreaterThan(0.93);
    expect(share).toBeLessThan(0.97);
  });

  test('the one bad channel of many is found, and the good ones are left alone', () => {
    const { results } = study(11, [0.035, 0, 0, 0, 0, 0, 0, 0], 0.0015, 40);
    const { fit } = fitChannelEffects(results);
    const bad = fit!.channels.filter((c) => c.corrects && Math.abs(c.shrunk) > 0.01);
    expect(bad.map((c) => c.channel)).toEqual(['k0']);
    const correction = channelCorrection(bad[0]!);
    expect(correction.factor).toBeGreaterThan(1.03);
    expect(correction.factor).toBeLessThan(1.04);
    expect(correction.text).toContain('k0 reads 3.');
    for (const good of fit!.channels.filter((c) => c.channel !== 'k0'))
      expect(Math.abs(channelCorrection(good).factor - 1)).toBeLessThan(0.004);
  });

  test('a channel that cannot be told from the others stays as uncertainty', () => {
    const { results } = study(5, [0, 0, 0, 0], 0.004, 10);
    const { fit } = fitChannelEffects(results);
    for (const channel of fit!.channels.filter((c) => !c.corrects)) {
      const { factor, relativeUncertainty } = channelCorrection(channel);
      expect(factor).toBe(1);
      expect(relativeUncertainty).toBeGreaterThanOrEqual(Math.abs(channel.shrunk));
    }
  });

  test('scaling every value changes nothing; effects sum to zero', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 500 }),
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        (seed, scale) => {
          const { results } = study(seed, [0.02, -0.01, 0.003], 0.002, 8);
          const a = fitChannelEffects(results).fit!;
          const b = fitChannelEffects(results.map((r) => ({ ...r, value: r.value * scale }))).fit!;
          a.channels.forEach((channel, i) =>
            expect(b.channels[i]!.effect).toBeCloseTo(channel.effect, 9),
          );
          expect(a.channels.reduce((sum, c) => sum + Math.log1p(c.effect), 0)).toBeCloseTo(0, 9);
        },
      ),
      { numRuns: 40 },
    );
  });

  test('refuses what is not connected, has no repeats, or is no positive number', () => {
    const result = (cell: string, channel: string, value = 3) => ({ cell, channel, value });
    expect(
      fitChannelEffects([
        result('a', '1'),
        result('a', '2'),
        result('b', '3'),
        result('b', '4'),
        result('b', '3'),
      ]).reason,
    ).toContain('share no cell');
    expect(fitChannelEffects([result('a', '1'), result('b', '2')]).fit).toBeNull();
    expect(fitChannelEffects([result('a', '1'), result('a', '2')]).reason).toContain('repeats');
    expect(fitChannelEffects([result('a', '1'), result('a', '1')]).reason).toContain(
      'two channels',
    );
    expect(fitChannelEffects([result('a', '1', 0), result('a', '2')]).reason).toContain('above 0');
  });
});

describe('gauge study', () => {
  const crossed = (
    seed: number,
    sd: { cells: number; channels: number; repeats: number },
    [a, b, r] = [10, 3, 3] as readonly [number, number, number],
  ) => {
    const draw = normals(seed);
    const cell = Array.from({ length: a }, () => sd.cells * draw());
    const channel = Array.from({ length: b }, () => sd.channels * draw());
    return cell.flatMap((c, i) =>
      channel.flatMap((k, j) =>
        Array.from({ length: r }, () => ({
          cell: `c${i}`,
          channel: `k${j}`,
          value: 100 + c + k + sd.repeats * draw(),
        })),
      ),
    );
  };

  test('sums of squares agree with nested regressions', () => {
    const results = crossed(2, { cells: 2, channels: 0.3, repeats: 0.4 });
    const { study: found } = gaugeStudy(results);
    const ys = results.map((result) => result.value);
    const left = (rows: number[][]) => {
      const fit = fitLinear(rows, ys)!;
      return fit.residualVariance * fit.degreesOfFreedom;
    };
    const [cells, channels] = [
      [...new Set(results.map((result) => result.cell))],
      [...new Set(results.map((result) => result.channel))],
    ];
    const dummies = (levels: string[], of: (r: (typeof results)[number]) => string) =>
      results.map((r) => levels.slice(1).map((level) => Number(of(r) === level)));
    const one = results.map(() => [1]);
    const join = (...parts: number[][][]) => results.map((_, i) => parts.flatMap((p) => p[i]!));
    const dc = dummies(cells, (r) => r.cell);
    const dk = dummies(channels, (r) => r.channel);
    const cross = results.map((_, i) => dc[i]!.flatMap((x) => dk[i]!.map((y) => x * y)));
    const square = (source: string) =>
      found!.anova.find((line) => line.source === source)!.sumOfSquares;
    expect(square('cells')).toBeCloseTo(left(one) - left(join(one, dc)), 7);
    expect(square('channels')).toBeCloseTo(left(one) - left(join(one, dk)), 7);
    expect(square('interaction')).toBeCloseTo(
      left(join(one, dc, dk)) - left(join(one, dc, dk, cross)),
      7,
    );
    expect(square('repeats')).toBeCloseTo(left(join(one, dc, dk, cross)), 7);
  });

  test('finds the spreads it was made from, on the average of many studies', () => {
    const sums = { repeatability: 0, reproducibility: 0, cells: 0 };
    const studies = 150;
    for (let seed = 1; seed <= studies; seed++) {
      const { study: found } = gaugeStudy(
        crossed(seed, { cells: 2, channels: 0.5, repeats: 0.4 }, [10, 5, 2]),
      );
      for (const name of ['repeatability', 'reproducibility', 'cells'] as const)
        sums[name] += found!.sources.find((s) => s.name === name)!.sd ** 2 / studies;
    }
    expect(Math.sqrt(sums.repeatability)).toBeCloseTo(0.4, 1);
    expect(Math.sqrt(sums.reproducibility)).toBeCloseTo(0.5, 1);
    expect(Math.abs(Math.sqrt(sums.cells) - 2)).toBeLessThan(0.1);
  });

  test('says good, borderline or unfit by the 10 and 30 % lines', () => {
    const verdict = (repeats: number) =>
      gaugeStudy(crossed(4, { cells: 2, channels: 0, repeats })).study!.verdict;
    expect(verdict(0.05)).toBe('good');
    expect(verdict(0.4)).toBe('borderline');
    expect(verdict(2)).toBe('unfit');
    expect(
      gaugeStudy(crossed(4, { cells: 2, channels: 0, repeats: 0.05 })).study!.categories,
    ).toBeGreaterThan(4);
  });

  test('refuses a design that is not crossed', () => {
    const results = crossed(1, { cells: 1, channels: 0, repeats: 0.1 });
    expect(gaugeStudy(results.slice(1)).reason).toContain('every cell on every channel');
    expect(gaugeStudy(results.filter((r) => r.channel === 'k0')).reason).toContain('2 channels');
  });

  test('tail of F against values from its closed forms', () => {
    // F with 2 and n degrees of freedom: P(F > f) = (1 + 2f/n)^(−n/2).
    for (const [f, n] of [
      [0.5, 4],
      [3, 10],
      [12, 27],
    ] as const)
      expect(fUpperTail(f, 2, n)).toBeCloseTo((1 + (2 * f) / n) ** (-n / 2), 12);
    expect(fUpperTail(0, 3, 4)).toBe(1);
  });
});
