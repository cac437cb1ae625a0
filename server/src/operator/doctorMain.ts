import { configFrom } from '../config.ts';
import { examine } from './doctor.ts';

/** Says how a set-up is, a line for each part; ends with 1 where something is wrong. */

const findings = await examine(configFrom(process.env), process.env.DATA_FOLDER ?? null);
for (const { what, isWell, words } of findings)
  process.stdout.write(`${isWell ? 'well ' : 'WRONG'}  ${what}: ${words}\n`);
const wrong = findings.filter(({ isWell }) => !isWell).length;
process.stdout.write(wrong ? `\n${wrong} of ${findings.length} need you.\n` : '\nAll is well.\n');
process.exit(wrong ? 1 : 0);
