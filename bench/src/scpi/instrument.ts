import { headerMatches, type MessageUnit, parseMessage } from './parse-message';

/** An error of SCPI-99, 21.8: its number decides the class. */
export class ScpiError extends Error {
  override readonly name = 'ScpiError';
  constructor(
    readonly code: number,
    message: string,
  ) {
    super(message);
  }
}

/** What one command of an instrument does. */
export interface Command {
  /** As in a manual: `MEASure:VOLTage`. */
  pattern: string;
  set?: (parameters: string[]) => void;
  query?: (parameters: string[]) => string;
}

/** Bits of the standard event status register (IEEE 488.2, 11.5.1). */
const ESR = {
  operationComplete: 1,
  queryError: 4,
  deviceError: 8,
  executionError: 16,
  commandError: 32,
  powerOn: 128,
} as const;
/** Bits of the status byte (IEEE 488.2, 11.2; SCPI-99, 20). */
const STB = { errorQueue: 4, messageAvailable: 16, eventSummary: 32, masterSummary: 64 } as const;
/** Entries of the error queue, most. */
export const QUEUE_LENGTH = 16;

const classOf = (code: number): number => {
  if (code <= -400) return ESR.queryError;
  if (code <= -300 || code > 0) return ESR.deviceError;
  return code <= -200 ? ESR.executionError : ESR.commandError;
};

/** A number with an optional unit, as SCPI takes it. @throws ScpiError −104 or −222. */
export function numberOf(
  text: string | undefined,
  { low, high }: { low: number; high: number },
): number {
  if (text === undefined) throw new ScpiError(-109, 'Missing parameter');
  const match = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)\s*(A|V|W|OHM|AH)?$/i.exec(text);
  if (!match) throw new ScpiError(-104, 'Data type error');
  const value = Number(match[1]);
  if (!(value >= low && value <= high)) throw new ScpiError(-222, 'Data out of range');
  return value;
}

/** `ON`, `OFF`, `1` or `0`. @throws ScpiError −104. */
export function switchOf(text: string | undefined): boolean {
  if (text === undefined) throw new ScpiError(-109, 'Missing parameter');
  const word = text.toUpperCase();
  if (word === 'ON' || word === '1') return true;
  if (word === 'OFF' || word === '0') return false;
  throw new ScpiError(-104, 'Data type error');
}

/**
 * The part every instrument shares: message parsing, the common commands, the error queue and the
 * status byte of IEEE 488.2. What it measures and sets is given as commands.
 */
export class ScpiInstrument {
  private readonly queue: { code: number; message: string }[] = [];
  private events: number = ESR.powerOn;
  private eventEnable = 0;
  private serviceEnable = 0;

  constructor(
    readonly identity: string,
    private readonly commands: readonly Command[],
    private readonly reset: () => void = () => undefined,
  ) {}

  /** Puts an error into the queue; a full one ends in −350 (SCPI-99, 21.8.1). */
  fail(code: number, message: string): void {
    this.events |= classOf(code);
    if (this.queue.length < QUEUE_LENGTH) this.queue.push({ code, message });
    else this.queue[QUEUE_LENGTH - 1] = { code: -350, message: 'Queue overflow' };
  }

  /** Takes in a whole message. @returns its answer without a line end; null where nothing was asked. */
  receive(message: string): string | null {
    const answers: string[] = [];
    for (const unit of parseMessage(message)) {
      try {
        const answer = this.execute(unit, answers.length > 0);
        if (answer !== null) answers.push(answer);
      } catch (error) {
        if (error instanceof ScpiError) this.fail(error.code, error.message);
        else if (error instanceof RangeError) this.fail(-222, error.message);
        else throw error;
      }
    }
    return answers.length > 0 ? answers.join(';') : null;
  }

  private execute(unit: MessageUnit, available: boolean): string | null {
    if (unit.header.startsWith('*')) return this.common(unit, available);
    if (headerMatches('SYSTem:ERRor[:NEXT]', unit.header) && unit.isQuery) return this.nextError();
    if (headerMatches('SYSTem:ERRor:COUNt', unit.header) && unit.isQuery)
      return String(this.queue.length);
    if (headerMatches('SYSTem:VERSion', unit.header) && unit.isQuery) return '1999.0';
    const command = this.commands.find(({ pattern }) => headerMatches(pattern, unit.header));
    if (unit.isQuery && command?.query) return command.query(unit.parameters);
    if (unit.isQuery || !command?.set) throw new ScpiError(-113, 'Undefined header');
    // Only a question is answered, whatever setting something gives back.
    command.set(unit.parameters);
    return null;
  }

  private nextError(): string {
    const next = this.queue.shift();
    return next ? `${next.code},"${next.message}"` : '0,"No error"';
  }

  private common({ header, isQuery, parameters }: MessageUnit, available: boolean): string | null {
    switch (isQuery ? `${header}?` : header) {
      case '*IDN?':
        return this.identity;
      case '*RST':
        this.reset();
        return null;
      case '*CLS':
        this.queue.length = 0;
        this.events = 0;
        return null;
      case '*OPC':
        this.events |= ESR.operationComplete;
        return null;
      case '*OPC?':
        return '1';
      case '*WAI':
        return null;
      case '*TST?':
        return '0';
      case '*ESR?': {
        const { events } = this;
        this.events = 0;
        return String(events);
      }
      case '*ESE':
        this.eventEnable = numberOf(parameters[0], { low: 0, high: 255 });
        return null;
      case '*ESE?':
        return String(this.eventEnable);
      case '*SRE':
        this.serviceEnable = numberOf(parameters[0], { low: 0, high: 255 }) & ~STB.masterSummary;
        return null;
      case '*SRE?':
        return String(this.serviceEnable);
      case '*STB?':
        return String(this.statusByte(available));
      default:
        throw new ScpiError(-113, 'Undefined header');
    }
  }

  /** Status byte; reading it by `*STB?` clears nothing. */
  statusByte(available = false): number {
    let byte = 0;
    if (this.queue.length > 0) byte |= STB.errorQueue;
    if (available) byte |= STB.messageAvailable;
    if (this.events & this.eventEnable) byte |= STB.eventSummary;
    return byte & this.serviceEnable ? byte | STB.masterSummary : byte;
  }
}
