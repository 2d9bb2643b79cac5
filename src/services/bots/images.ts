import { createHash } from 'node:crypto';
import { object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { imageType } from '../../core/formats/imagetype';
import { type Image, readImage, writeImage } from '../../data/images';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host, Tx } from '../ground/host';
import { exactly } from '../ground/schemas';
import { parse } from '../ground/validate';

/** The most a picture may be, bytes: it is shown in a bubble of a conversation. */
export const MOST_IMAGE_BYTES = 200 * 1024;
const keepSchema = exactly(
  object({
    data: string()
      .matches(/^[A-Za-z0-9+/]+={0,2}$/, 'A picture comes as base64')
      .max(Math.ceil((MOST_IMAGE_BYTES * 4) / 3) + 4, 'A picture may have at most 200 KB')
      .required('The picture is missing'),
  }),
);

/**
 * Keeps a picture that came as base64, once however often it comes. Throws `not-valid` for what is no picture or too
 * large.
 */
export function keepImage(tx: Tx, data: string): string {
  const bytes = Buffer.from(data, 'base64');
  const type = imageType(bytes);
  if (bytes.length > MOST_IMAGE_BYTES)
    throw new LaneError('not-valid', 'A picture may have at most 200 KB.', [{ where: 'data', what: 'is too large' }]);
  if (type === null)
    throw new LaneError('not-valid', 'A picture is a PNG, JPEG, GIF or WebP file.', [
      { where: 'data', what: 'is no picture' },
    ]);
  const id = `image_${createHash('sha256').update(bytes).digest('hex').slice(0, 32)}`;
  writeImage(tx.db, { id, type, bytes });
  return id;
}

/** What the functions of this file are given first. */
export type ImagesDeps = { readonly host: Host };

export function acceptImage({ host }: ImagesDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'bots.change');
  const { data } = parse(keepSchema, input);
  return { id: host.transact((tx) => keepImage(tx, data)) };
}

/** A picture as customers see it; whoever was sent its id may. Throws `not-found`. */
export function imageFor({ host }: ImagesDeps, id: string): Image {
  const image = readImage(host.db, id);
  if (!image) throw new LaneError('not-found', 'There is no such picture.');
  return image;
}

/** Pictures that bots show in writing. */
export const createImages = (deps: ImagesDeps) => bind(deps, { keep: acceptImage, read: imageFor });
