import { LaneError } from '@/core/errors';
import { bearer, query, reply } from '../../../reply';
import { services } from '../../../../services';

type Context = { params: Promise<{ id: string }> };

export const GET = (request: Request, { params }: Context) =>
  reply(async () => {
    const after = Number(query(request).after ?? 0);
    if (!Number.isInteger(after) || after < 0)
      throw new LaneError('not-valid', 'after must be a whole number from 0 up.', [
        { where: 'after', what: 'is not a whole number' },
      ]);
    return services().channel.read((await params).id, bearer(request), after);
  });
