const mark = 'zesty-sieve reloaded';
/** A part that is missing so soon after a reload is missing for another reason. */
const againAfterMs = 60_000;

/**
 * After an upgrade of the server a page that is open asks for parts that are no longer there. It is loaded anew, once: what is being
 * written survives that.
 */
export function reloadWhereOutdated(): void {
  window.addEventListener('vite:preloadError', (event) => {
    const last = Number(sessionStorage.getItem(mark) ?? 0);
    if (Date.now() - last < againAfterMs) return;
    sessionStorage.setItem(mark, String(Date.now()));
    event.preventDefault();
    location.reload();
  });
}
