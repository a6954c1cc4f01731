import { ScpiClient } from '../scpi';

/** All lines to instruments; one for each address, shared by the channels on it. */
export class ScpiLines {
  private readonly clients = new Map<string, ScpiClient>();
  private readonly warmth = new Map<
    string,
    { inputs: Set<number>; atMs: number; reading: Promise<Map<number, number>> | null }
  >();

  constructor(private readonly timeoutMs: number) {}

  at(address: string): ScpiClient {
    let client = this.clients.get(address);
    if (!client) this.clients.set(address, (client = new ScpiClient(address, this.timeoutMs)));
    return client;
  }

  /**
   * Temperature at an input, °C. Inputs of one thermometer are asked for together; an answer
   * younger than `maxAgeMs` serves all of them.
   */
  async temperatureC(
    { address, input }: { address: string; input: number },
    maxAgeMs: number,
  ): Promise<number> {
    let shared = this.warmth.get(address);
    if (!shared)
      this.warmth.set(address, (shared = { inputs: new Set(), atMs: -Infinity, reading: null }));
    const isNew = !shared.inputs.has(input);
    shared.inputs.add(input);
    const now = performance.now();
    if (isNew || !shared.reading || now - shared.atMs > maxAgeMs) {
      const inputs = [...shared.inputs].sort((a, b) => a - b);
      shared.atMs = now;
      shared.reading = this.at(address)
        .numbers(`MEAS:TEMP? (@${inputs.join(',')})`, inputs.length)
        .then((values) => new Map(inputs.map((one, i) => [one, values[i]!])));
      shared.reading.catch(() => {
        shared.atMs = -Infinity;
      });
    }
    return (await shared.reading).get(input)!;
  }

  close(): void {
    for (const client of this.clients.values()) client.close();
  }
}
