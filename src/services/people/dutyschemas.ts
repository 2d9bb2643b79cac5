import { array, boolean, mixed, number, object, string } from 'yup';
import { CHANNELS } from '../../core/channels';
import { channel, exactly, id, requiredText, whole } from '../ground/schemas';

const rowsSchema = array(
  exactly(
    object({
      queueId: id('The queue'),
      channel,
      band: whole(1, 5, 'The band'),
      delaySeconds: whole(0, 3600, 'The delay'),
    }),
  ),
)
  .max(400, 'At most 400 rows')
  .required('The rows are missing');

const loadSchema = exactly(
  object(
    Object.fromEntries(
      CHANNELS.map((c) => [
        c,
        exactly(object({ cost: whole(0, 100, `The load of ${c}`), most: whole(0, 20, `How many at once by ${c}`) })),
      ]),
    ),
  ),
);

export const profileSchema = exactly(
  object({
    id: string().nullable().defined(),
    revision: whole(0, 1e9, 'The revision'),
    name: requiredText(60, 'The name'),
    acceptSeconds: whole(5, 120, 'The seconds to accept'),
    rows: rowsSchema,
    load: loadSchema,
    autoAccept: boolean().required('autoAccept is missing'),
    restSeconds: number()
      .integer('The rest must be whole seconds')
      .min(30, 'A conversation rests after 30 s at the earliest')
      .max(86400, 'A rest begins within a day')
      .nullable()
      .defined(),
  }),
);

export const situationSchema = exactly(
  object({
    rows: rowsSchema,
    load: loadSchema,
    personId: string().nullable().defined(),
    lines: array(
      exactly(
        object({
          queueId: id('The queue'),
          channel,
          count: whole(1, 50, 'How many'),
          waitedSeconds: whole(0, 86400, 'How long'),
        }),
      ),
    )
      .max(30, 'At most 30 lines')
      .required('The situation is missing'),
  }),
);

const side = {
  revision: whole(0, 1e9, 'The revision'),
  channel,
  band: whole(0, 5, 'The band'),
  delaySeconds: whole(0, 3600, 'The delay'),
};

/** Rows of profiles, and of single people: theirs is taken away where it says so. */
export const queueSideSchema = exactly(
  object({
    queueId: id('The queue'),
    rows: array(exactly(object({ ...side, profileId: id('The profile') })))
      .max(400, 'At most 400 rows')
      .required('The rows are missing'),
    own: array(
      exactly(object({ ...side, personId: id('The person'), asProfile: boolean().required('asProfile is missing') })),
    )
      .max(400, 'At most 400 rows')
      .required('The rows of people are missing'),
  }),
);

export const idSchema = exactly(object({ id: id('The profile') }));

export const reasonsSchema = exactly(
  object({
    reasons: array(
      exactly(
        object({
          id: string().nullable().defined(),
          name: requiredText(40, 'The name'),
          paid: boolean().required('paid is missing'),
          minutes: mixed<number>()
            .nullable()
            .defined()
            .test(
              'minutes',
              'Minutes are a whole number from 1 to 480',
              (m) => m === null || (Number.isInteger(m) && m >= 1 && m <= 480),
            ),
        }),
      ),
    )
      .min(1, 'Keep at least one reason')
      .max(30, 'At most 30 reasons')
      .required('The reasons are missing'),
  }),
);
