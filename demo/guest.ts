import type { Guest } from '../src/server/guest';
import { emailOf, PASSWORD } from './company';
import { startCrowd } from './crowd';
import { createHireDesk } from './hiredesk';

/**
 * The demo company as the server brings it along: its accounts, its own system, and its crowd where LANE_CROWD is 1.
 */
const guest: Guest = {
  accounts: [
    { role: 'Owner', name: 'Nell Ashgrove' },
    { role: 'Lead', name: 'Noor Amsel' },
    { role: 'Supervisor', name: 'Bertil Achterberg' },
    { role: 'Agent', name: 'Tamsin Orrel' },
    { role: 'Agent', name: 'Odile Karrow' },
  ].map((who) => ({ ...who, email: emailOf(who.name), password: PASSWORD })),
  system: createHireDesk(),
  start: process.env.LANE_CROWD === '1' ? startCrowd : null,
};
export default guest;
