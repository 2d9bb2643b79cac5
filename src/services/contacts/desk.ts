import { boolean, object, string } from 'yup';
import { readContact } from '../../data/contacts';
import { legsOf, readLeg } from '../../data/legs';
import { openOfferOf, visitsOf } from '../../data/visits';
import { dealsWith } from '../customers/access';
import { type Actor, mustHold } from '../ground/actor';
import { bind } from '../ground/bind';
import { exactly, id } from '../ground/schemas';
import { parse } from '../ground/validate';
import { actAtDesk, targetsOf } from './deskacts';
import type { DeskDeps } from './deskcontact';
import { viewDesk } from './deskview';

const beatSchema = exactly(
  object({
    /** Which of a person’s windows it is: a name that it gives itself. */
    window: id('The window'),
    legId: string().max(80).nullable().defined('What is in front is missing'),
    seen: boolean().required('Whether it can be seen is missing'),
    focused: boolean().required('Whether it has the focus is missing'),
  }),
);

/**
 * A sign that the Desk is there, and what is in front there: every 15 s from an open Desk, and when that changes. A turn that
 * is not the actor's own, or is over, is in front of nobody.
 */
export function beatOf({ host, floor, inFront }: DeskDeps, actor: Actor, input: unknown): void {
  mustHold(actor, 'desk.work');
  const said = parse(beatSchema, input);
  floor.beat(actor.personId);
  const leg = said.legId === null ? undefined : readLeg(host.db, said.legId);
  const own = leg && leg.personId === actor.personId && leg.endedAt === null;
  inFront.report(actor.personId, { ...said, legId: own ? leg.id : null });
}

/** Whether events about this contact may reach this person's Desk: theirs, and of a customer whom they deal with. */
export function concernsDesk({ host }: DeskDeps, personId: string, contactId: string): boolean {
  const contact = readContact(host.db, contactId);
  return (
    legsOf(host.db, contactId).some((l) => l.personId === personId) ||
    visitsOf(host.db, contactId).some((v) => openOfferOf(host.db, personId)?.visitId === v.id) ||
    (contact !== undefined && dealsWith(host.db, personId, contact.customerId))
  );
}

/** What a person does with contacts. Everything here is about the actor's own Desk. */
export const createDesk = (deps: DeskDeps) =>
  bind(deps, { view: viewDesk, beat: beatOf, act: actAtDesk, targets: targetsOf, concerns: concernsDesk });
