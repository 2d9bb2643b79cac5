import { legsOf } from '../../data/legs';
import { openOfferOf, visitsOf } from '../../data/visits';
import { type Actor, mustHold } from '../ground/actor';
import { bind } from '../ground/bind';
import { actAtDesk } from './deskacts';
import type { DeskDeps } from './deskcontact';
import { viewDesk } from './deskview';

/** A sign that the Desk is there; every 15 s from an open Desk. */
export function beatOf({ floor }: DeskDeps, actor: Actor): void {
  mustHold(actor, 'desk.work');
  floor.beat(actor.personId);
}

/** Whether events about this contact may reach this person's Desk. */
export const concernsDesk = ({ host }: DeskDeps, personId: string, contactId: string): boolean =>
  legsOf(host.db, contactId).some((l) => l.personId === personId) ||
  visitsOf(host.db, contactId).some((v) => openOfferOf(host.db, personId)?.visitId === v.id);

/** What a person does with contacts. Everything here is about the actor's own Desk. */
export const createDesk = (deps: DeskDeps) =>
  bind(deps, { view: viewDesk, beat: beatOf, act: actAtDesk, concerns: concernsDesk });
