import type { ChannelWiring } from '@dusk-tally/core/bench';
import { CHEMISTRIES, type Chemistry } from '@dusk-tally/core/chemistry';
import { typicalCell } from '@dusk-tally/core/simulator';
import { seededRandom } from '@dusk-tally/core/statistics';
import { InstrumentServer, type LineFaults } from './instrument-server';
import {
  simulatedLoad,
  simulatedResistanceMeter,
  simulatedSupply,
  simulatedThermometer,
} from './instruments';
import { NO_FAULTS, type PlaceFaults, type PlaceSnapshot } from './place-state';
import { SimulatedPlace } from './simulated-place';

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
  /** Numbers of cells that heat on charge. */
  heaters?: readonly string[];
  /** Standard deviation of the capacity of cells put in, as a share of what is rated. */
  capacitySpread?: number;
  /** First port; load and supply of place i take `port + 2 i` and the next; 0 for any free ones. */
  port: number;
}

/** A cell that is put into a place. */
export interface InsertedCell {
  chemistry: string;
  ratedAh: number;
  /** 0 to 1. */
  stateOfCharge: number;
  number: string;
  /** As it was measured before, Ah; null for a cell nobody measured. */
  capacityAh: number | null;
}

/** A bench as it was left: its instruments go on by themselves until it is opened again. */
export interface BenchSnapshot {
  savedAtMs: number;
  nowS: number;
  /** Ports in the order they were opened. */
  ports: number[];
  places: PlaceSnapshot[];
}

/** Cells of a lot differ by about this share. */
const USUAL_SPREAD = 0.014;

/** A bench of simulated instruments on loopback: a load and a supply at each place, one thermometer, one AC meter. */
export class SimulatedBench {
  readonly places: SimulatedPlace[];
  readonly loads: InstrumentServer[] = [];
  readonly supplies: InstrumentServer[] = [];
  readonly meters: InstrumentServer[] = [];
  private readonly startedAt = performance.now();
  /** Bench time when this process began, s. */
  private readonly startS: number;
  private readonly ports: number[] = [];
  private wirings: readonly ChannelWiring[] = [];

  /**
   * @param left how it was left; its number of places has to be the same. Time went on meanwhile.
   */
  constructor(
    readonly description: BenchDescription,
    private readonly left: BenchSnapshot | null = null,
    nowMs = Date.now(),
  ) {
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
    if (left && left.places.length !== places.length)
      throw new RangeError(
        `Expected ${places.length} places as described; ${left.places.length} were left.`,
      );
    this.startS = left ? left.nowS + (Math.max(0, nowMs - left.savedAtMs) / 1000) * speed : 0;
    left?.places.forEach((snapshot, i) => this.places[i]!.restore(snapshot));
  }

  /** All of it as it is now. */
  snapshot(): BenchSnapshot {
    const nowS = this.nowS;
    for (const place of this.places) place.advanceTo(nowS);
    return {
      savedAtMs: Date.now(),
      nowS,
      ports: [...this.ports],
      places: this.places.map((place) => place.snapshot()),
    };
  }

  /** Number of the place whose load or supply answers at an address. @throws RangeError for none. */
  placeAt(address: string): number {
    const at = this.wirings.findIndex(({ load, supply }) => load === address || supply === address);
    if (at < 0)
      throw new RangeError(
        `Expected the address of a load or supply of this bench; found ${address}.`,
      );
    return at;
  }

  /** Puts a cell into a place. Its number decides how good it is: the same one is the same again. */
  insert(at: number, cell: InsertedCell): void {
    const place = this.places[at]!;
    place.advanceTo(this.nowS);
    if (!CHEMISTRIES.includes(cell.chemistry as Chemistry))
      throw new RangeError(`Expected a chemistry such as LFP; found ${cell.chemistry}.`);
    let seed = this.description.seed;
    for (const character of cell.number) seed = (Math.imul(seed, 31) + character.charCodeAt(0)) | 0;
    const random = seededRandom(seed);
    const spread = this.description.capacitySpread ?? USUAL_SPREAD;
    const drawn = 1 - spread + spread * random.normal();
    // A cell that was measured before is the same cell again.
    const capacityShare = cell.capacityAh === null ? drawn : cell.capacityAh / cell.ratedAh;
    const typical = typicalCell(cell.chemistry as Chemistry, cell.ratedAh);
    const heaterWPerA2 = this.description.heaters?.includes(cell.number)
      ? // Enough to get 30 K above the room at half the reference current.
        30 / typical.thermalResistanceKPerW / (0.5 * cell.ratedAh) ** 2
      : 0;
    place.insert(
      { ...typical, r0Mohm: typical.r0Mohm * (1 + 0.04 * random.normal()) },
      cell.stateOfCharge,
      capacityShare,
      heaterWPerA2,
    );
  }

  /** Time of the bench, s. */
  get nowS(): number {
    return this.startS + ((performance.now() - this.startedAt) / 1000) * this.description.speed;
  }

  /** Opens all ports. @returns how each place is wired. */
  async open(): Promise<ChannelWiring[]> {
    const { port, seed } = this.description;
    const serve = async (list: InstrumentServer[], instrument: InstrumentServer, at: number) => {
      list.push(instrument);
      const wanted = this.left?.ports[this.ports.length] ?? (port === 0 ? 0 : port + at);
      const address = await instrument.listen(wanted);
      this.ports.push(Number(address.split(':')[1]));
      return address;
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
    this.wirings = wirings;
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
