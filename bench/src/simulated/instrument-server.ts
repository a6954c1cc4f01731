import { createServer, type Server, type Socket } from 'node:net';
import { seededRandom } from '@dusk-tally/core/statistics';
import type { ScpiInstrument } from '../scpi';

/** What may go wrong on the line, each as a chance for one answer, 0 to 1. */
export interface LineFaults {
  /** The answer comes after this many ms instead. */
  late: number;
  lateMs: number;
  garbage: number;
  /** Only a part of the line, and no end. */
  halfLine: number;
  silent: number;
  /** The answer to something else. */
  foreign: number;
  disconnect: number;
  /** The instrument fills its error queue. */
  queueFull: number;
}

export const SOUND_LINE: LineFaults = {
  late: 0,
  lateMs: 3000,
  garbage: 0,
  halfLine: 0,
  silent: 0,
  foreign: 0,
  disconnect: 0,
  queueFull: 0,
};

/** Longest message taken in, characters. */
const LONGEST_MESSAGE = 4096;

/** An instrument that answers on a port of this machine. */
export class InstrumentServer {
  private readonly server: Server;
  private readonly sockets = new Set<Socket>();
  private readonly random;
  faults: LineFaults = SOUND_LINE;

  constructor(
    readonly instrument: ScpiInstrument,
    /** Called before each message: lets the bench’s time pass. */
    private readonly before: () => void,
    seed: number,
  ) {
    this.random = seededRandom(seed);
    this.server = createServer((socket) => this.serve(socket));
  }

  /** Opens the port. @param port 0 for any free one. @returns `127.0.0.1:port`. */
  async listen(port = 0): Promise<string> {
    await new Promise<void>((resolve, reject) => {
      this.server.once('error', reject);
      this.server.listen(port, '127.0.0.1', resolve);
    });
    const address = this.server.address();
    return `127.0.0.1:${typeof address === 'object' && address ? address.port : port}`;
  }

  async close(): Promise<void> {
    this.disconnect();
    await new Promise<void>((resolve) => this.server.close(() => resolve()));
  }

  /** Drops every connection, as a pulled plug does. */
  disconnect(): void {
    for (const socket of this.sockets) socket.destroy();
    this.sockets.clear();
  }

  private serve(socket: Socket): void {
    this.sockets.add(socket);
    socket.setNoDelay(true);
    socket.setEncoding('latin1');
    let received = '';
    socket.on('data', (text: string) => {
      received += text;
      if (received.length > LONGEST_MESSAGE) {
        this.instrument.fail(-363, 'Input buffer overrun');
        received = '';
        return;
      }
      for (let end = received.indexOf('\n'); end >= 0; end = received.indexOf('\n')) {
        const message = received.slice(0, end);
        received = received.slice(end + 1);
        this.before();
        this.answer(socket, this.instrument.receive(message));
      }
    });
    const gone = () => this.sockets.delete(socket);
    socket.on('error', gone);
    socket.on('close', gone);
  }

  private answer(socket: Socket, answer: string | null): void {
    const { faults } = this;
    if (this.happens(faults.queueFull))
      for (let i = 0; i < 20; i++) this.instrument.fail(-310, 'System error');
    if (this.happens(faults.disconnect)) return void socket.destroy();
    if (answer === null || this.happens(faults.silent)) return;
    if (this.happens(faults.garbage)) return void socket.write('\u00ff\u0000#?\u0007 9.9E+37\n');
    if (this.happens(faults.halfLine))
      return void socket.write(answer.slice(0, Math.ceil(answer.length / 2)));
    if (this.happens(faults.foreign)) return void socket.write(`${this.instrument.identity}\n`);
    const say = () => !socket.destroyed && socket.write(`${answer}\n`);
    if (this.happens(faults.late)) setTimeout(say, faults.lateMs).unref();
    else say();
  }

  private happens(chance: number): boolean {
    return chance > 0 && this.random.uniform() < chance;
  }
}
