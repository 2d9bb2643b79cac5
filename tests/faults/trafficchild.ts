import { writeSync } from 'node:fs';
import { pino } from 'pino';
import { readPersonByEmail } from '../../src/data/people';
import { actorOf } from '../../src/services/ground/actor';
import { openWorkspace } from '../../src/server/workspace';
import { HERE } from '../helpers/reached';
import { STAND_IN } from '../../src/services/contacts/speaker';

/**
 * A process to be killed: it opens the workspace of LANE_DATA and does things in it without end, each with a key. What
 * was acknowledged is said in a line on the standard output at once: its kind, its number, and what it gave.
 */
const [folder = '', run = '', lead = ''] = process.argv.slice(2);
const log = pino({ level: 'silent' });
const { services } = openWorkspace(folder, { root: process.cwd(), guest: null, reached: HERE, log });
const said = (...words: (string | number)[]): void => void writeSync(1, `${words.join(' ')}\n`);

async function traffic(): Promise<void> {
  const person = readPersonByEmail(services.host.db, lead);
  const actor = person && actorOf(services.host.db, person.id);
  if (!actor) throw new Error('there is no such lead');
  const columns = services.peopleImport.csv(actor, '').text.split('\r\n')[1]?.split(',') ?? [];
  for (let i = 0; ; i++) {
    const c = services.channel.start(STAND_IN, { door: 'door_web', from: `guest-${run}-${i}` }, `start-${run}-${i}`);
    said('start', i, c.contact, c.token);
    for (const n of [1, 2, 3]) {
      services.channel.say(c.contact, c.token, { text: `word ${n}` }, `say-${run}-${i}-${n}`);
      said('say', i, n);
    }
    services.channel.leave(c.contact, c.token);
    said('leave', i);
    if (i % 3 === 1) {
      // A small file is taken back as one change, a large one in turns.
      const size = i % 2 === 0 ? 60 : 600;
      const from = `-${i}-${run}-${size}@many.example`;
      const csv = [
        'Full name,E-mail,Team,Duty profile',
        ...Array.from({ length: size }, (_, p) => `P ${p},p${p}${from},${columns[3]},${columns[6]}`),
      ].join('\n');
      const { id } = services.peopleImport.begin(actor, Buffer.from(csv), 'many.csv');
      while (services.peopleImport.view(actor, { id }).state !== 'planned')
        await new Promise((resume) => setTimeout(resume, 2));
      await services.peopleImport.apply(actor, { id, invite: true });
      said('import', i);
      const [entry] = services.history.view(actor, { kind: 'person' }).lines;
      await services.history.undoPress(actor, { id: entry?.id });
      said('undo', i);
    }
    await new Promise((resume) => setImmediate(resume));
  }
}
said('ready');
void traffic();
