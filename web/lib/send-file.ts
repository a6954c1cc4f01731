/** What came back for a file that was sent. */
export interface SentFile<T> {
  status: number;
  body: T;
}

/**
 * Sends a file and says how much of it has gone. The browser’s fetch cannot say that, its older
 * request can.
 * @throws DOMException named AbortError when it was cancelled. @throws Error without a connection.
 */
export function sendFile<T>(
  url: string,
  file: File,
  { signal, onProgress }: { signal: AbortSignal; onProgress: (share: number) => void },
): Promise<SentFile<T>> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const abort = () => request.abort();
    request.open('POST', url);
    request.upload.onprogress = ({ loaded, total }) => onProgress(total > 0 ? loaded / total : 0);
    request.onload = () => {
      try {
        resolve({ status: request.status, body: JSON.parse(request.responseText) as T });
      } catch {
        reject(new Error('The server’s answer could not be read.'));
      }
    };
    request.onerror = () => reject(new Error('No connection.'));
    request.onabort = () => reject(new DOMException('Cancelled.', 'AbortError'));
    request.onloadend = () => signal.removeEventListener('abort', abort);
    if (signal.aborted) return reject(new DOMException('Cancelled.', 'AbortError'));
    signal.addEventListener('abort', abort);
    request.send(file);
  });
}
