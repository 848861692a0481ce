import { randomInt } from 'node:crypto';
import { parseArgs } from 'node:util';
import { readConfig } from '../config/config';
import { createOfficeRepository } from '../office/officeRepository';
import { openCollege } from './openCollege';

/* npm run account -- list | add … | pin NUMBER | remove NUMBER …; DATA_DIR says where the server's data are. */

const HELP = `npm run account -- list
npm run account -- add --number NUMBER --first NAME --family NAME [--reader]
npm run account -- pin NUMBER           a new PIN; signs the account out everywhere
npm run account -- remove NUMBER …      what was handed in stays
PINs are made here and shown once. To choose one, set PIN in the environment.`;
/** Digits and letters that nobody mistakes for each other. */
const PIN_SIGNS = '23456789abcdefghjkmnpqrstuvwxyz';
const PIN_LENGTH = 10;
const LEAST_PIN = 4;
const MOST_PIN = 200;

function fail(why: string): never {
  console.error(why);
  process.exit(2);
}

/** The one chosen, or one made here. */
function newPin(): { readonly pin: string; readonly shown: string } {
  const chosen = (process.env as Readonly<Record<string, string | undefined>>)['PIN'];
  if (chosen === undefined) {
    const pin = Array.from({ length: PIN_LENGTH }, () => PIN_SIGNS[randomInt(PIN_SIGNS.length)]).join('');
    return { pin, shown: ` PIN: ${pin}` };
  }
  if (chosen.length < LEAST_PIN || chosen.length > MOST_PIN) fail(`A PIN has ${LEAST_PIN} to ${MOST_PIN} characters.`);
  return { pin: chosen, shown: '' };
}

function run(): void {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: {
      number: { type: 'string' },
      first: { type: 'string' },
      family: { type: 'string' },
      reader: { type: 'boolean', default: false },
    },
  });
  const [command, ...numbers] = positionals;
  const college = openCollege(readConfig(process.env).DATA_DIR);
  const office = createOfficeRepository(college.office);
  const known = (number: string): string =>
    office.accounts().some((each) => each.number === number.trim().toUpperCase())
      ? number
      : fail(`There is no account ${number}. See: npm run account -- list`);
  if (command === 'list')
    for (const { number, family, first, reader } of office.accounts())
      console.log(`${number}\t${family}, ${first}${reader ? '\treader' : ''}`);
  else if (command === 'add') {
    const { number = '', first = '', family = '', reader } = values;
    if ([number, first, family].some((each) => each.trim() === '')) fail(HELP);
    const upper = number.trim().toUpperCase();
    if (office.accounts().some((each) => each.number === upper))
      fail(`${upper} has an account. For a new PIN: npm run account -- pin ${upper}`);
    const { pin, shown } = newPin();
    office.addAccount(`account ${upper}`, { number: upper, first: first.trim(), family: family.trim() }, pin, reader);
    console.log(`${upper} may sign in${reader ? ' as a reader' : ''}.${shown}`);
  } else if (command === 'pin' && numbers.length === 1) {
    const { pin, shown } = newPin();
    office.setPin(known(numbers[0]!), pin);
    console.log(`${numbers[0]} has a new PIN, and is signed out everywhere.${shown}`);
  } else if (command === 'remove' && numbers.length > 0) {
    for (const number of numbers.map(known)) office.removeAccount(number);
    console.log(`Nobody can sign in as ${numbers.join(', ')} any more.`);
  } else fail(HELP);
  for (const each of Object.values(college)) each.close();
}

try {
  run();
} catch (error) {
  fail((error as Error).message);
}
