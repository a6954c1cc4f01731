import 'server-only';

/** A line that keeps the connection open while nothing happens. */
const STILL_HERE = ': still here\n\n';

/**
 * Server-sent events: asks for what is new every `everyMs` until the reader is gone.
 * @param next what to send, with the id a reader comes back with; null for nothing new.
 */
export function eventStream(
  signal: AbortSignal,
  everyMs: number,
  next: () => Promise<{ id: string; data: unknown } | null>,
): Response {
  const encoder = new TextEncoder();
  let timer: ReturnType<typeof setTimeout> | null = null;
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      let quiet = 0;
      const stop = () => {
        if (timer) clearTimeout(timer);
        try {
          controller.close();
        } catch {
          // Closed by the reader already.
        }
      };
      const step = async () => {
        const started = performance.now();
        try {
          const message = await next();
          if (signal.aborted) return;
          if (message) {
            quiet = 0;
            controller.enqueue(
              encoder.encode(`id: ${message.id}\ndata: ${JSON.stringify(message.data)}\n\n`),
            );
          } else if (++quiet % 15 === 0) controller.enqueue(encoder.encode(STILL_HERE));
        } catch (error) {
          // The database is away for a moment: the reader keeps what it has.
          if (!signal.aborted) console.error(error);
        }
        if (!signal.aborted)
          timer = setTimeout(
            () => void step(),
            Math.max(50, everyMs - (performance.now() - started)),
          );
      };
      signal.addEventListener('abort', stop);
      void step();
    },
    cancel() {
      if (timer) clearTimeout(timer);
    },
  });
  return new Response(body, {
    headers: {
      'Content-Type': 'text/event-stream; charset=utf-8',
      'Cache-Control': 'no-cache, no-transform',
      'X-Accel-Buffering': 'no',
    },
  });
}
