/** Long work in turns: the worker stays open to messages between slices. */

/** How long a slice may take, ms. */
export const SLICE_MS = 8;

const channel = new MessageChannel();
const waiting: (() => void)[] = [];
channel.port1.onmessage = () => waiting.shift()?.();

/** Lets waiting messages in. */
export function turn(): Promise<void> {
  return new Promise((resolve) => {
    waiting.push(resolve);
    channel.port2.postMessage(null);
  });
}
