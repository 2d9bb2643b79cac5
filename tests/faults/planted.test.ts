import { readFileSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { rows } from '../../src/data/database';
import { packedLife } from '../../src/data/packed';
import { writePasswordHash } from '../../src/data/sessions';
import { noticesFor, noticesForContact } from '../../src/services/floor/stream';
import { speakerBy, STAND_IN } from '../../src/services/contacts/speaker';
import { hashedPassword } from '../../src/services/workspace/passwords';
import { READINGS } from '../../src/services/readings';
import { VIEWS } from '../../src/services/views';
import type { LaneEvent } from '../../src/core/events';
import type { Services } from '../../src/services';
import { emailOf } from '../../demo/company';
import { handsIn } from '../helpers/hands';
import { everything, must } from '../helpers/validacts';
import { browserAt } from '../helpers/reached';
import { makeWorld, type World } from '../helpers/world';

/**
 * Values planted in every input that is nobody's to read, and looked for afterwards wherever something is kept or goes
 * out: the files of the database byte by byte, every table, the log of faults, exports, views and streams.
 */
let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());
const { ready, odile, owner, lead, take } = handsIn(() => w);

/** Six digits, as a hire number is; not to be met anywhere by chance. */
const HIRE = '718293';

/** What the files of the workspace hold, the write-ahead log and all. */
const bytesOf = (world: World): string =>
  readdirSync(world.folder)
    .map((name) => join(world.folder, name))
    .filter((file) => statSync(file).isFile())
    .map((file) => readFileSync(file).toString('latin1'))
    .join('\n');

async function everythingRead(world: World): Promise<string> {
  const { services } = world;
  const contacts = rows<{ id: string }>(world.db, 'SELECT id FROM contacts');
  const asked = [{}, ...contacts.map((c) => ({ id: c.id })), { id: 'bot_front' }, { id: owner().personId }];
  const said: unknown[] = [];
  for (const name of Object.keys(VIEWS))
    for (const a of asked)
      said.push(
        await Promise.resolve()
          .then(() => services.read(name, owner(), a as never))
          .catch(String),
      );
  for (const name of Object.keys(READINGS))
    said.push(await services.reading(name as never, owner(), { after: '', team: '' } as never).catch(String));
  return JSON.stringify(said);
}

describe('what nobody may read', () => {
  it('private values stand in their own table and nowhere else, and are seen by the two who talk', async () => {
    const heard: (object | null)[] = [];
    s.host.listen((events: readonly LaneEvent[]) =>
      events.forEach((e) => heard.push(noticesFor(s, owner())(e), noticesForContact('any')(e))),
    );
    ready(odile());
    const speaker = speakerBy(s.host, null, '192.0.2.1');
    // By words, by keys, over again under the same key, and within other words.
    const chat = s.channel.start(speaker, { door: 'door_web', from: 'planted-guest' }, 'first-key');
    for (const text of ['a repair', HIRE, `the bridge of ${HIRE} snapped`])
      s.channel.say(chat.contact, chat.token, { text }, `key of ${text.length}`);
    const call = s.channel.start(STAND_IN, { door: 'door_repairs', from: '+353209140001' }, null);
    for (const key of [...HIRE, '#']) s.channel.say(call.contact, call.token, { key }, `key-of-${Math.random()}`);
    s.channel.say(call.contact, call.token, { text: `it is ${HIRE}, the bow` }, null);
    const leg = take(odile());
    s.desk.act(odile(), { act: 'say', legId: leg, text: `Thank you, ${HIRE} it is.` }, 'said-by-key');
    expect(JSON.stringify(s.desk.view(odile(), 0).contacts)).toContain(HIRE);
    expect(JSON.stringify(s.channel.read(chat.contact, chat.token, 0))).toContain(HIRE);

    const { private_values: apart, ...tables } = everything(w);
    expect(JSON.stringify(apart)).toContain(HIRE);
    for (const [name, kept] of Object.entries(tables))
      expect([name, JSON.stringify(kept).includes(HIRE)]).toEqual([name, false]);
    expect(await everythingRead(w)).not.toContain(HIRE);
    expect(JSON.stringify([heard, w.faults])).not.toContain(HIRE);

    // Long after they are over, neither is it in what they were packed into, nor in what is read of that.
    s.channel.leave(call.contact, call.token);
    s.desk.act(odile(), { act: 'end', legId: leg }, null);
    s.desk.act(odile(), { act: 'file', legId: leg, code: 'ADVICE' }, null);
    w.pass(15 * 86_400);
    while (await s.packing.pack());
    const lives = rows<{ no: number }>(w.db, 'SELECT no FROM packed_contacts').map((p) => packedLife(w.db, p.no));
    expect(lives.length).toBeGreaterThan(0);
    expect(JSON.stringify(lives)).not.toContain(HIRE);
    expect(await everythingRead(w)).not.toContain(HIRE);

    // Erased, no byte of it is left once the log has been emptied.
    w.db.exec('DELETE FROM private_values');
    w.db.pragma('wal_checkpoint(TRUNCATE)');
    expect(bytesOf(w).includes(HIRE)).toBe(false);
  });
  it('passwords, tokens, keys, codes and secrets stand nowhere as they are', async () => {
    const PASSWORD = 'planted password 9';
    writePasswordHash(w.db, owner().personId, await hashedPassword(PASSWORD));
    const { token: session, mark } = await s.signIn.signIn(
      { email: emailOf('Nell Ashgrove'), password: PASSWORD },
      browserAt(),
    );
    const { key } = s.doors.makeKey(lead(), { doorId: 'door_web', name: 'The site' });
    const chat = s.channel.start(
      speakerBy(s.host, key, 'x'),
      { door: 'door_web', from: 'planted-guest' },
      'planted-key',
    );
    s.channel.say(chat.contact, chat.token, { text: 'planted words' }, 'planted-key-too');
    s.botParts.saveHosts(owner(), { revision: 0, hosts: ['https://api.example.org'] });
    const connector = must(s.botParts.connections(owner()).connectors[0]);
    const { id, revision, name, hasSecret: _h, usedBy: _u, ...rest } = connector;
    s.botParts.saveConnector(owner(), { ...rest, id, revision, name, secret: 'planted secret' });
    await s.newPassword.ask({ email: emailOf('Tamsin Orrel') });
    const link = /\/password\/(\S+)/.exec(JSON.stringify(s.mailbox.view(owner())))?.[1]?.split(/[\\"]/)[0] ?? '';
    expect(link).toHaveLength(32);

    const { outside_messages: _sent, connector_secrets: _secrets, ...tables } = everything(w);
    const kept = JSON.stringify(tables);
    const files = bytesOf(w);
    for (const planted of [PASSWORD, session, mark, key, chat.token, 'planted-key', 'planted-key-too'])
      expect([planted, kept.includes(planted), files.includes(planted)]).toEqual([planted, false, false]);
    expect(kept).not.toContain(link);
    const read = await everythingRead(w);
    for (const planted of [PASSWORD, session, mark, key, chat.token, 'planted secret'])
      expect([planted, read.includes(planted)]).toEqual([planted, false]);
    expect(JSON.stringify(w.faults)).not.toContain('planted');
  });
});
