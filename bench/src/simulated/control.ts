import { createServer, type Server, Socket } from 'node:net';
import { createInterface } from 'node:readline';
import type { InsertedCell, SimulatedBench } from './simulated-bench';

/** What a simulated bench is told beside its instruments: one JSON object a line. */
export type ControlOrder =
  /** Puts a cell into the place whose load or supply answers at an address. */
  | { do: 'insert'; at: string; cell: InsertedCell }
  /** Moves the clock of the instruments at a place by some seconds. */
  | { do: 'moveClock'; at: string; seconds: number };

const between = (value: unknown, low: number, high: number, what: string): number => {
  if (typeof value !== 'number' || !(value >= low && value <= high))
    throw new RangeError(
      `Expected ${what} from ${low} to ${high}; found ${JSON.stringify(value)}.`,
    );
  return value;
};

function obey(bench: SimulatedBench, order: ControlOrder): void {
  if (order.do === 'insert') {
    const { chemistry, ratedAh, stateOfCharge, number, capacityAh } = order.cell;
    bench.insert(bench.placeAt(order.at), {
      chemistry,
      number: String(number),
      ratedAh: between(ratedAh, 0.01, 10_000, 'a rated capacity'),
      stateOfCharge: between(stateOfCharge, 0, 1, 'a state of charge'),
      capacityAh: capacityAh === null ? null : between(capacityAh, 0.001, 10_000, 'a capacity'),
    });
  } else if (order.do === 'moveClock')
    bench.places[bench.placeAt(order.at)]!.clockOffS += between(
      order.seconds,
      -1e7,
      1e7,
      'seconds',
    );
  else throw new RangeError(`Expected “insert” or “moveClock”; found ${JSON.stringify(order)}.`);
}

/** The control socket of a simulated bench; its instruments know nothing of it. */
export class ControlServer {
  private readonly server: Server;
  private readonly sockets = new Set<Socket>();

  constructor(bench: SimulatedBench) {
    this.server = createServer((socket) => {
      this.sockets.add(socket);
      socket.on('error', () => socket.destroy());
      socket.on('close', () => this.sockets.delete(socket));
      createInterface({ input: socket }).on('line', (line) => {
        let answer: { ok: boolean; message?: string } = { ok: true };
        try {
          obey(bench, JSON.parse(line) as ControlOrder);
        } catch (error) {
          answer = { ok: false, message: (error as Error).message };
        }
        socket.write(`${JSON.stringify(answer)}\n`);
      });
    });
  }

  /** @returns `127.0.0.1:port`. */
  async listen(): Promise<string> {
    await new Promise<void>((resolve, reject) => {
      this.server.once('error', reject);
      this.server.listen(0, '127.0.0.1', resolve);
    });
    const address = this.server.address();
    return `127.0.0.1:${typeof address === 'object' && address ? address.port : 0}`;
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    await new Promise<void>((resolve) => this.server.close(() => resolve()));
  }
}

const TIMEOUT_MS = 2000;

/** Tells a simulated bench something. @throws Error where it does not answer, or refuses. */
export async function tell(control: string, order: ControlOrder): Promise<void> {
  const [host, port] = control.split(':') as [string, string];
  const socket = new Socket();
  socket.setTimeout(TIMEOUT_MS, () => socket.destroy(new Error(`${control} does not answer.`)));
  try {
    const line = await new Promise<string>((resolve, reject) => {
      socket.once('error', reject);
      socket.once('close', () => reject(new Error(`${control} went away.`)));
      createInterface({ input: socket }).once('line', resolve);
      socket.connect(Number(port), host, () => socket.write(`${JSON.stringify(order)}\n`));
    });
    const { ok, message } = JSON.parse(line) as { ok: boolean; message?: string };
    if (!ok) throw new Error(message);
  } finally {
    socket.destroy();
  }
}
