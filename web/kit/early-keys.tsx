/**
 * Keeps what is pressed while a page is shown and not yet alive: a scanner does not wait for that.
 * `useKeys` hears it afterwards. Keys that go into a field stand there already.
 */
const SCRIPT = `(() => {
  const keys = (window.earlyKeys = []);
  const keep = (event) => {
    if (event.target !== document.body) return;
    if (event.key === 'k' && (event.ctrlKey || event.metaKey)) event.preventDefault();
    keys.push(event);
  };
  addEventListener('keydown', keep, true);
  keys.end = () => removeEventListener('keydown', keep, true);
})();`;

export function EarlyKeys() {
  return <script dangerouslySetInnerHTML={{ __html: SCRIPT }} />;
}
