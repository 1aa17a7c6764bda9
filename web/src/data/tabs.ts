/**
 * Work that only one tab does at a time. Where the browser has no locks (a page
 * not served securely), the turns hold within this tab.
 */
export function inTurn<T>(name: string, work: () => Promise<T>): Promise<T> {
  if (globalThis.navigator?.locks) return held(name, work);
  const before = queues.get(name) ?? Promise.resolve();
  const turn = before.then(work, work);
  queues.set(
    name,
    turn.then(
      () => undefined,
      () => undefined,
    ),
  );
  return turn;
}

async function held<T>(name: string, work: () => Promise<T>): Promise<T> {
  return await navigator.locks.request(name, () => work());
}

const queues = new Map<string, Promise<void>>();

/** Tells the other tabs. */
export function toTabs<T>(channel: BroadcastChannel, message: T) {
  // oxlint-disable-next-line unicorn/require-post-message-target-origin -- a channel stays within its origin
  channel.postMessage(message);
}
