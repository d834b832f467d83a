/**
 * Asks the core as a browser has it, under Node: `node bay-run.mjs ASKED ANSWERED`, {kit, asks} and a list, JSON; with
 * `times` how long it took to start and to answer.
 * The contract test holds them against the server's.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { start } from './start-bay.mjs';

const clock = [performance.now()];
try {
  const py = await start(() => clock.push(performance.now()));
  py.runPython('import bay.answers');
  clock.push(performance.now());
  const given = JSON.parse(readFileSync(process.argv[2], 'utf8'));
  const work = py.pyimport('bay.answers').Bay(given.kit);
  clock.push(performance.now());
  const ms = [];
  const answers = given.asks.map((ask) => {
    const began = performance.now();
    const answer = JSON.parse(work.ask(JSON.stringify(ask)));
    ms.push(performance.now() - began);
    return answer;
  });
  const statuses = answers.map((answer) => answer.status);
  const memory_mb = [process.memoryUsage().rss / 1e6];
  const started = clock.slice(1).map((at, n) => at - clock[n]);
  writeFileSync(
    process.argv[3],
    JSON.stringify(process.argv[4] === 'times' ? { started, ms, statuses, memory_mb } : answers),
  );
  process.exit(0);
} catch (error) {
  console.error(String(error.message ?? error).slice(-3000)); // its stack holds the whole minified runtime
  process.exit(1);
}
