import type { ChannelWiring } from '@dusk-tally/core/bench';
import type { Chemistry } from '@dusk-tally/core/chemistry';
import { typicalCell } from '@dusk-tally/core/simulator';
import { seededRandom } from '@dusk-tally/core/statistics';
import { InstrumentServer, type LineFaults } from './instrument-server';
import {
  simulatedLoad,
  simulatedResistanceMeter,
  simulatedSupply,
  simulatedThermometer,
} from './instruments';
import { NO_FAULTS, type PlaceFaults, SimulatedPlace } from './simulated-place';

/** A place as it is described. */
export interface PlaceDescription {
  chemistry: Chemistry;
  ratedAh: number;
  stateOfCharge: number;
  faults?: Partial<PlaceFaults>;
}

export interface BenchDescription {
  seed: number;
  /** Bench seconds for each real one, 1 to 2 000. */
  speed: number;
  places: readonly PlaceDescription[];
  /** First port; load and supply of place i take `port + 2 i` and the next; 0 for any free ones. */
  port: number;
}

/** A bench of simulated instruments on loopback: a load and a supply at each place, one thermometer, one AC meter. */
export class SimulatedBench {
  readonly places: SimulatedPlace[];
  readonly loads: InstrumentServer[] = [];
  readonly supplies: InstrumentServer[] = [];
  readonly meters: InstrumentServer[] = [];
  private readonly startedAt = performance.now();

  constructor(readonly description: BenchDescription) {
    const { seed, places, speed } = description;
    if (!(speed >= 0.1 && speed <= 2000))
      throw new RangeError(`Expected a speed of 0.1 to 2000; found ${speed}.`);
    const random = seededRandom(seed);
    this.places = places.map(
      ({ chemistry, ratedAh, stateOfCharge, faults }) =>
        new SimulatedPlace(
          typicalCell(chemistry, ratedAh * (1 + 0.008 * random.normal())),
          { ...NO_FAULTS, ...faults },
          { seed: Math.floor(random.uniform() * 2 ** 31), stateOfCharge },
        ),
    );
  }

  /** Time of the bench, s. */
  get nowS(): number {
    return ((performance.now() - this.startedAt) / 1000) * this.description.speed;
  }

  /** Opens all ports. @returns how each place is wired. */
  async open(): Promise<ChannelWiring[]> {
    const { port, seed } = this.description;
    const serve = (list: InstrumentServer[], instrument: InstrumentServer, at: number) => {
      list.push(instrument);
      return instrument.listen(port === 0 ? 0 : port + at);
    };
    const n = this.places.length;
    const of = (i: number) => () => this.places[i]!;
    const all = this.places.map((_, i) => of(i));
    const pass = (i: number) => () => this.places[i]!.advanceTo(this.nowS);
    const passAll = () => {
      for (const place of this.places) place.advanceTo(this.nowS);
    };
    const thermometer = await serve(
      this.meters,
      new InstrumentServer(simulatedThermometer('T1', all), passAll, seed + 1),
      2 * n,
    );
    const resistanceMeter = await serve(
      this.meters,
      new InstrumentServer(simulatedResistanceMeter('R1', all), passAll, seed + 2),
      2 * n + 1,
    );
    const wirings: ChannelWiring[] = [];
    for (let i = 0; i < n; i++) {
      const load = new InstrumentServer(
        simulatedLoad(`L${i + 1}`, of(i)),
        pass(i),
        seed + 3 + 2 * i,
      );
      const supply = new InstrumentServer(
        simulatedSupply(`S${i + 1}`, of(i)),
        pass(i),
        seed + 4 + 2 * i,
      );
      wirings.push({
        load: await serve(this.loads, load, 2 * i),
        supply: await serve(this.supplies, supply, 2 * i + 1),
        thermometer: { address: thermometer, input: i + 1 },
        resistanceMeter: { address: resistanceMeter, input: i + 1 },
      });
    }
    return wirings;
  }

  /** Makes all lines of a kind behave so. */
  disturb(
    faults: LineFaults,
    servers: readonly InstrumentServer[] = [...this.loads, ...this.supplies],
  ): void {
    for (const server of servers) server.faults = faults;
  }

  async close(): Promise<void> {
    await Promise.all(
      [...this.loads, ...this.supplies, ...this.meters].map((server) => server.close()),
    );
  }
}
