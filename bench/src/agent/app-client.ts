import type { AgentOrders, AgentPoll, BatchAnswer, RecordBatch } from '@dusk-tally/core/bench';

/** The app refuses what the agent says; trying again will not help. */
export class AppRefusal extends Error {
  override readonly name = 'AppRefusal';
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

/** Longest the app is waited for, ms. */
const TIMEOUT_MS = 15_000;

/** The app as the agent sees it: its HTTP interface, version 1. */
export class AppClient {
  constructor(
    private readonly url: string,
    private readonly token: string,
  ) {}

  poll(poll: AgentPoll): Promise<AgentOrders> {
    return this.post('agent/poll', poll);
  }

  records(batch: RecordBatch): Promise<BatchAnswer> {
    return this.post('agent/records', batch);
  }

  /** @throws AppRefusal for an answer below 500 that is no success, Error where the app cannot be reached. */
  private async post<T>(path: string, body: unknown): Promise<T> {
    const response = await fetch(new URL(`/api/v1/${path}`, this.url), {
      method: 'POST',
      headers: { 'content-type': 'application/json', authorization: `Bearer ${this.token}` },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(TIMEOUT_MS),
    });
    const text = await response.text();
    if (response.ok) return JSON.parse(text) as T;
    const message = messageIn(text) ?? `The app answered ${response.status}.`;
    if (response.status < 500 && response.status !== 429 && response.status !== 408)
      throw new AppRefusal(response.status, message);
    throw new Error(message);
  }
}

function messageIn(text: string): string | null {
  try {
    const { error } = JSON.parse(text) as { error?: { message?: string } };
    return error?.message ?? null;
  } catch {
    return null;
  }
}
