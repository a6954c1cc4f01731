import { PERSON_HEADER } from './person-header-name';

let personId = 0;
let installed = false;

/**
 * Every request of this page that changes something says whose page it is; the server refuses it
 * where somebody else is signed in by then. Acts go through `fetch` like everything else.
 */
export function tellPerson(id: number): void {
  personId = id;
  if (installed) return;
  installed = true;
  const plain = window.fetch.bind(window);
  window.fetch = (input, init) => {
    const method = init?.method ?? (input instanceof Request ? input.method : 'GET');
    const target = new URL(input instanceof Request ? input.url : input, window.location.href);
    if (method === 'GET' || personId === 0 || target.origin !== window.location.origin)
      return plain(input, init);
    const headers = new Headers(init?.headers ?? (input instanceof Request ? input.headers : {}));
    headers.set(PERSON_HEADER, String(personId));
    return plain(input, { ...init, headers });
  };
}
