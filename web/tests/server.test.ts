import { existsSync, readFileSync } from 'node:fs';
import { LabError } from '@dusk-tally/lab';
import { describe, expect, it, vi } from 'vitest';
import { bytesOf, jsonOf } from '../lib/api-v1';
import { eventStream } from '../lib/event-stream';
import { outcomeOf } from '../lib/outcome';
import { withSpooled } from '../lib/spool';

const post = (body: BodyInit, headers: Record<string, string> = {}) =>
  new Request('http://127.0.0.1/api', { method: 'POST', body, headers, duplex: 'half' } as never);

describe('a body that goes to a file', () => {
  it('is there while it is worked on, whole, and gone afterwards', async () => {
    const bytes = Uint8Array.from({ length: 300_000 }, (_, i) => i % 251);
    let where = '';
    const read = await withSpooled(post(bytes), 1_000_000, (path) => {
      where = path;
      return Promise.resolve(readFileSync(path));
    });
    expect(Buffer.compare(read, Buffer.from(bytes))).toBe(0);
    expect(existsSync(where)).toBe(false);
  });
  it('is gone after work that failed, too', async () => {
    let where = '';
    const failing = withSpooled(post('text'), 100, (path) => {
      where = path;
      return Promise.reject(new Error('no use'));
    });
    await expect(failing).rejects.toThrow('no use');
    expect(existsSync(where)).toBe(false);
  });
  it('is refused when it is longer than allowed, or shorter than announced', async () => {
    const never = () => Promise.reject(new Error('not to be called'));
    await expect(withSpooled(post('x'.repeat(3 << 20)), 1 << 20, never)).rejects.toThrow(
      'at most 1 MB',
    );
    await expect(withSpooled(post('four', { 'content-length': '40' }), 100, never)).rejects.toThrow(
      'did not arrive whole',
    );
  });
});

describe('events for a page', () => {
  const texts = async (response: Response, count: number): Promise<string[]> => {
    const reader = response.body!.getReader();
    let text = '';
    while (text.split('\n\n').length <= count) {
      const { value, done } = await reader.read();
      if (done) break;
      text += new TextDecoder().decode(value);
    }
    await reader.cancel();
    return text.split('\n\n').filter(Boolean);
  };
  it('come with the number a reader comes back with, and nothing for nothing new', async () => {
    let n = 0;
    const stop = new AbortController();
    const response = eventStream(stop.signal, 1, () =>
      Promise.resolve(++n % 2 === 0 ? null : { id: String(n), data: { n } }),
    );
    expect(response.headers.get('content-type')).toContain('text/event-stream');
    expect((await texts(response, 3)).slice(0, 3)).toEqual([
      'id: 1\ndata: {"n":1}',
      'id: 3\ndata: {"n":3}',
      'id: 5\ndata: {"n":5}',
    ]);
    stop.abort();
  });
  it('go on after the database was away for a moment', async () => {
    const said = vi.spyOn(console, 'error').mockImplementation(() => undefined);
    let n = 0;
    const stop = new AbortController();
    const response = eventStream(stop.signal, 1, () =>
      ++n < 3 ? Promise.reject(new Error('away')) : Promise.resolve({ id: 'x', data: n }),
    );
    expect((await texts(response, 1))[0]).toBe('id: x\ndata: 3');
    stop.abort();
    expect(said).toHaveBeenCalledTimes(2);
    said.mockRestore();
  });
  it('end when their reader is gone', async () => {
    let asked = 0;
    const stop = new AbortController();
    const response = eventStream(stop.signal, 1, () => {
      asked++;
      return Promise.resolve(null);
    });
    const reader = response.body!.getReader();
    stop.abort();
    expect((await reader.read()).done).toBe(true);
    const then = asked;
    await new Promise((resolve) => setTimeout(resolve, 150));
    expect(asked - then).toBeLessThanOrEqual(1);
  });
});

describe('the body of a request by a program', () => {
  /** A body that says nothing of its length and would go on for ever. */
  const endless = () => {
    let given = 0;
    const body = new ReadableStream<Uint8Array>({
      pull(controller) {
        given++;
        controller.enqueue(new Uint8Array(1000).fill(0x20));
      },
    });
    return { request: post(body), given: () => given };
  };
  it('is read as it is, in however many pieces it comes', async () => {
    const bytes = Uint8Array.from({ length: 5000 }, (_, i) => i % 256);
    expect(await bytesOf(post(bytes), { mostBytes: 5000 })).toEqual(bytes);
    expect(await bytesOf(new Request('http://127.0.0.1/'), { mostBytes: 5 })).toHaveLength(0);
    expect(await jsonOf(post('{"a": [1, "µΩ"]}'), { mostBytes: 100 })).toEqual({ a: [1, 'µΩ'] });
  });
  it('is given up as soon as it is too long, whatever was announced', async () => {
    const { request, given } = endless();
    await expect(bytesOf(request, { mostBytes: 10_000 })).rejects.toThrow('at most 10000 bytes');
    expect(given()).toBeLessThan(20);
  });
  it.each(['{"a": 1', 'no json', '', String.fromCharCode(0)])('“%s” is no JSON', async (text) => {
    await expect(jsonOf(post(text), { mostBytes: 100 })).rejects.toThrow('Expected JSON');
  });
  it('bytes that are no UTF-8 are no JSON either', async () => {
    const latin = Uint8Array.from([0x22, 0xb5, 0x22]);
    await expect(jsonOf(post(latin), { mostBytes: 100 })).rejects.toThrow('Expected JSON');
  });
});

describe('the outcome of an act', () => {
  it('holds what was made, or why not in words a person can use', async () => {
    expect(await outcomeOf(Promise.resolve(7))).toMatchObject({ ok: true, data: 7 });
    const refused = await outcomeOf(
      Promise.reject(new LabError('conflict', 'Someone was quicker.', { link: '/lots/L-001' })),
    );
    expect(refused).toMatchObject({ ok: false, message: 'Someone was quicker.' });
  });
  it('leaves what nobody can mend to the page’s own words', async () => {
    await expect(outcomeOf(Promise.reject(new Error('inside')))).rejects.toThrow('inside');
  });
});
