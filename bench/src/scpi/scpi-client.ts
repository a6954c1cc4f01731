import { connect, type Socket } from 'node:net';

/** An instrument did not answer, or not with what was asked for. */
export class InstrumentFault extends Error {
  override readonly name = 'InstrumentFault';
  constructor(
    readonly kind: 'unreachable' | 'silent' | 'garbage' | 'refused',
    message: string,
  ) {
    super(message);
  }
}

/** Longest list of errors read at once. */
const MOST_ERRORS = 20;
/** Answers longer than this are none, characters. */
const LONGEST_ANSWER = 4096;

/**
 * A line to one instrument: one command at a time, each with its own time limit. Where an answer is
 * late, cut short or not what was asked for, the connection is closed: what may still come over it
 * can no longer be taken for the answer to a later question.
 */
export class ScpiClient {
  private socket: Socket | null = null;
  private pending: Promise<unknown> = Promise.resolve();
  private received = '';
  private waiting: { resolve: (line: string) => void; reject: (error: Error) => void } | null =
    null;
  private identity: string | null = null;
  private isClosed = false;

  constructor(
    /** `host:port`. */
    readonly address: string,
    private readonly timeoutMs = 1000,
  ) {}

  /**
   * Sends commands that are not answered, and has the instrument say that it took all of them.
   * @throws InstrumentFault `refused` with its first error where it did not.
   */
  async send(commands: string): Promise<void> {
    const count = await this.ask(`${commands};:SYST:ERR:COUN?;*OPC?`, (answer) => {
      const match = /^(\d+);1$/.exec(answer);
      if (!match)
        throw new InstrumentFault(
          'garbage',
          `Expected a count and 1; ${this.address} said “${shown(answer)}”.`,
        );
      return Number(match[1]);
    });
    if (count === 0) return;
    const [first] = await this.errors();
    throw new InstrumentFault(
      'refused',
      `${this.address} did not take “${commands}”: ${first ?? 'no reason'}.`,
    );
  }

  /** Errors the instrument holds, oldest first; reading them clears them. */
  async errors(): Promise<string[]> {
    const found: string[] = [];
    while (found.length < MOST_ERRORS) {
      const error = await this.ask(':SYST:ERR?', (answer) => {
        const match = /^([+-]?\d+),"(.*)"$/.exec(answer);
        if (!match)
          throw new InstrumentFault(
            'garbage',
            `Expected an error number and text; ${this.address} said “${shown(answer)}”.`,
          );
        return { code: Number(match[1]), text: match[2]! };
      });
      if (error.code === 0) break;
      found.push(`${error.code}: ${error.text}`);
    }
    return found;
  }

  /**
   * Asks one thing. @param read takes the answer apart and throws where it is not one.
   * @throws InstrumentFault
   */
  ask<T>(question: string, read: (answer: string) => T): Promise<T> {
    const asked = this.pending.then(() => this.once(question, read));
    this.pending = asked.catch(() => undefined);
    return asked;
  }

  /**
   * Asks for numbers; the answer has to hold as many as expected, each a finite number.
   * @param most more than `count` where an instrument may tell more.
   */
  numbers(question: string, count: number, most = count): Promise<number[]> {
    // The question behind it marks the answer’s end: one that lost or gained a part is told by it.
    return this.ask(`${question};*OPC?`, (answer) => {
      const [text, mark, ...more] = answer.split(';');
      const values = (text ?? '')
        .split(',')
        .map((part) => (part.trim() === '' ? NaN : Number(part)));
      if (
        mark !== '1' ||
        more.length > 0 ||
        values.length < count ||
        values.length > most ||
        !values.every(Number.isFinite)
      )
        throw new InstrumentFault(
          'garbage',
          `Expected ${count} number(s); ${this.address} said “${shown(answer)}”.`,
        );
      return values;
    });
  }

  /** Takes the connection down; a later question opens it again, unless for good. */
  close(forGood = true): void {
    this.isClosed ||= forGood;
    const { socket, waiting } = this;
    this.socket = null;
    this.received = '';
    this.waiting = null;
    socket?.removeAllListeners();
    socket?.on('error', () => undefined);
    socket?.destroy();
    waiting?.reject(new InstrumentFault('silent', `The connection to ${this.address} was lost.`));
  }

  private async once<T>(question: string, read: (answer: string) => T): Promise<T> {
    if (this.isClosed) throw new InstrumentFault('unreachable', `${this.address} was closed.`);
    try {
      if (!this.socket) await this.open();
      return read(await this.exchange(question));
    } catch (error) {
      this.close(false);
      throw error;
    }
  }

  private async open(): Promise<void> {
    const at = this.address.lastIndexOf(':');
    const socket = connect({
      host: this.address.slice(0, at),
      port: Number(this.address.slice(at + 1)),
    });
    socket.setNoDelay(true);
    await new Promise<void>((resolve, reject) => {
      const fail = (message: string) => {
        socket.destroy();
        reject(new InstrumentFault('unreachable', message));
      };
      const timer = setTimeout(
        () => fail(`${this.address} does not take connections.`),
        this.timeoutMs,
      );
      socket.once('connect', () => {
        clearTimeout(timer);
        resolve();
      });
      socket.once('error', (error) => {
        clearTimeout(timer);
        fail(`${this.address} cannot be reached: ${error.message}.`);
      });
    });
    socket.removeAllListeners('error');
    socket.setEncoding('latin1');
    socket.on('data', (text: string) => this.take(text));
    const lost = () => this.socket === socket && this.close(false);
    socket.on('error', lost);
    socket.on('close', lost);
    this.socket = socket;
    const identity = await this.exchange('*CLS;*IDN?');
    if (this.identity !== null && identity !== this.identity)
      throw new InstrumentFault(
        'garbage',
        `Another instrument answers at ${this.address}: “${shown(identity)}”.`,
      );
    if (identity.split(',').length < 4)
      throw new InstrumentFault(
        'garbage',
        `Expected a name in four parts; ${this.address} said “${shown(identity)}”.`,
      );
    this.identity = identity;
  }

  private exchange(question: string): Promise<string> {
    const { socket } = this;
    if (!socket) throw new InstrumentFault('unreachable', `${this.address} is not connected.`);
    return new Promise<string>((resolve, reject) => {
      const timer = setTimeout(() => {
        this.waiting = null;
        reject(
          new InstrumentFault(
            'silent',
            `${this.address} did not answer within ${this.timeoutMs} ms.`,
          ),
        );
      }, this.timeoutMs);
      this.waiting = {
        resolve: (line) => {
          clearTimeout(timer);
          resolve(line);
        },
        reject: (error) => {
          clearTimeout(timer);
          reject(error);
        },
      };
      socket.write(`${question}\n`);
    });
  }

  private take(text: string): void {
    this.received += text;
    const end = this.received.indexOf('\n');
    if (end < 0) {
      if (this.received.length > LONGEST_ANSWER) this.close(false);
      return;
    }
    const line = this.received.slice(0, end).replace(/\r$/, '');
    this.received = this.received.slice(end + 1);
    const { waiting } = this;
    this.waiting = null;
    // A line nobody asked for: nothing that comes after it can be trusted.
    if (!waiting || this.received !== '') {
      waiting?.reject(
        new InstrumentFault('garbage', `${this.address} said more than was asked for.`),
      );
      this.close(false);
      return;
    }
    waiting.resolve(line);
  }
}

const shown = (text: string): string => text.replace(/[^\x20-\x7e]/g, '?').slice(0, 40);
