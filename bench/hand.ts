import { HAND_START, HAND_UNITS, ROOMY_UNITS } from '../standin/hand/handUnits';
import { jobLifeOf, WORKED } from '../standin/hand/jobs';
import { MOVE_ERRORS, moveLifeOf, MOVES } from '../standin/hand/moves';
import { ERRORS, lifeOf, type Life } from '../standin/hand/person';

/**
 * Thousands of lives of a literal hand: how many, how many faults, which. npm run bench:hand
 *
 * @param process.argv lives of each kind; 120 where left out, ten thousand in all
 */
const each = Number(process.argv[2] ?? 120);
const began = Date.now();
const faults: string[] = [];
let [lives, stopped, beyond, steps] = [0, 0, 0, 0];
function count(name: string, err: string, seed: number, life: Life): void {
  lives++;
  steps += life.steps;
  if (life.wasDown && !life.beyond) stopped++;
  if (life.beyond) beyond++;
  if (life.fault !== null)
    faults.push(`${name}, ${err}, seed ${String(seed)}, after ${life.plans.join(', ')}: ${life.fault}`);
}

for (const [name, events] of HAND_UNITS)
  for (const err of ERRORS)
    for (let seed = 1; seed <= each; seed++) {
      count(name, err, seed, lifeOf(events, err, seed, HAND_START));
    }
for (const [name, events] of ROOMY_UNITS)
  for (const job of WORKED)
    for (const err of ERRORS)
      for (let seed = 1; seed <= Math.ceil(each / 12); seed++) {
        const life = jobLifeOf(job, events, err, seed, HAND_START);
        if (life) count(`${name}, ${job}`, err, seed, life);
      }
for (const [name, way, start] of MOVES)
  for (const err of MOVE_ERRORS)
    for (let seed = 1; seed <= Math.ceil(each / 12); seed++) {
      const life = moveLifeOf(way, start(), err, seed);
      lives++;
      steps += life.steps;
      if (life.fault !== null) faults.push(`${name}, ${err}, seed ${String(seed)}: ${life.fault}`);
    }
const seconds = Math.round((Date.now() - began) / 1000);
console.log(
  `${String(lives)} lives, ${String(steps)} steps, ${String(seconds)} s: ${String(stopped)} stopped and came back, ${String(beyond)} lost more than they survive by failures of their own, ${String(faults.length)} faults.`,
);
for (const fault of faults.slice(0, 40)) console.log(fault);
process.exitCode = faults.length === 0 ? 0 : 1;
