// Keeps something running: what ends by itself is started again, a little later each time; what does not stay up is given up.
import { say } from "./say.mjs";

const FIRST_WAIT_MS = 500;
const MOST_WAIT_MS = 15_000;
/** What has run for so long counts as up: the next end begins anew. */
const STEADY_MS = 60_000;
const MOST_ENDS = 6;

/**
 * @param what how it is called in messages
 * @param begin starts it: gives an object with `stop` and `ended`
 * @returns the one that runs now, a function that stops it for good, and a promise that resolves when it was given up
 */
export async function keep(what, begin) {
  let current = await begin(null);
  let lastGood = current;
  let stopped = false;
  let stopWaiting = () => {};
  const givenUp = (async () => {
    let ends = 0;
    while (!stopped) {
      const since = Date.now();
      await current.ended;
      if (stopped) return;
      ends = Date.now() - since >= STEADY_MS ? 1 : ends + 1;
      if (ends > MOST_ENDS) return;
      const wait = Math.min(MOST_WAIT_MS, FIRST_WAIT_MS * 2 ** (ends - 1));
      say(`The ${what} ended; it is started again in ${wait / 1000} s.`);
      await new Promise((resolve) => {
        stopWaiting = resolve;
        setTimeout(resolve, wait);
      });
      if (stopped) return;
      try {
        current = await begin(lastGood);
        lastGood = current;
        say(`The ${what} runs again.`);
      } catch (error) {
        say(error.message);
        current = { ended: Promise.resolve(), stop: async () => {} };
      }
    }
  })();
  return {
    current: () => current,
    givenUp,
    stop: async () => {
      stopped = true;
      stopWaiting();
      await current.stop();
    },
  };
}
