/** Nothing was sent: there is no connection. */
export class NotSent extends Error {
  override readonly name = 'NotSent';
}

/**
 * An act as long as there is a connection: without one it is not begun, and where it breaks off the
 * wait ends. The framework itself would wait for the connection without a word.
 * @param patienceMs after which an answer is taken for lost; only for acts that may be sent again.
 * @throws where there is no connection or no answer.
 */
export function orOffline<T>(work: () => Promise<T>, patienceMs?: number): Promise<T> {
  if (!navigator.onLine) return Promise.reject(new NotSent('No connection.'));
  return new Promise<T>((resolve, reject) => {
    const lost = () => reject(new Error('No connection.'));
    const timer = patienceMs === undefined ? null : setTimeout(lost, patienceMs);
    window.addEventListener('offline', lost, { once: true });
    void work()
      .then(resolve, reject)
      .finally(() => {
        window.removeEventListener('offline', lost);
        if (timer) clearTimeout(timer);
      });
  });
}
