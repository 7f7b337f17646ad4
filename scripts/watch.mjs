// Keeps a process up: whatever ends without being asked to is started again, with a growing pause.

/** Pauses before it is started again, ms; the last one stays. */
const PAUSES = [200, 500, 1000, 2000];
/** What answered and lived this long served people: the pauses begin anew. */
const WELL_AFTER_MS = 1000;
/** So many deaths without being well in between are no accident. */
const MOST_DEATHS = 20;

/**
 * @param {{ name: string, start: () => Promise<{ gone: Promise<unknown>, stop: () => Promise<void> }>, say: (sentence: string) => void,
 *   pauses?: readonly number[], wellAfterMs?: number, mostDeaths?: number }} options start rejects where it could not be started: that counts as a death
 * @returns {Promise<{ stop: () => Promise<void>, gaveUp: Promise<void> }>} once it is up for the first time; rejects where it never came up
 */
export async function keepUp({ name, start, say, pauses = PAUSES, wellAfterMs = WELL_AFTER_MS, mostDeaths = MOST_DEATHS }) {
  let running = await start();
  let stopping = false;
  let wake = () => {};
  const pause = (ms) =>
    new Promise((resolve) => {
      const timer = setTimeout(resolve, ms);
      wake = () => (clearTimeout(timer), resolve());
    });
  const watch = async () => {
    let deaths = 0;
    let since = Date.now();
    for (;;) {
      if (running) await running.gone;
      if (stopping) return;
      if (Date.now() - since > wellAfterMs) deaths = 0;
      deaths++;
      if (deaths > mostDeaths) {
        say(`${name} ended ${deaths} times in a row and is not started again. What it said last stands above; nothing that was kept is lost.`);
        return;
      }
      const ms = pauses[Math.min(deaths, pauses.length) - 1];
      say(`${name} ended without being asked to: it is started again${ms >= 1000 ? ` in ${ms / 1000} s` : ''}.`);
      await pause(ms);
      if (stopping) return;
      try {
        running = await start();
        since = Date.now();
        say(`${name} is up again.`);
      } catch (e) {
        running = undefined;
        since = Date.now();
        say(`${name} could not be started: ${e instanceof Error ? e.message : String(e)}`);
      }
      // Asked to stop while it came up.
      if (stopping) await running?.stop();
    }
  };
  const gaveUp = watch();
  return {
    gaveUp,
    async stop() {
      stopping = true;
      wake();
      await running?.stop();
      await gaveUp;
    },
  };
}
