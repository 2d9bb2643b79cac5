import { services } from '../../../../services';
import { reply } from '../../../reply';

/** A recording that callers hear. Its id is the digest of its bytes, so that it never changes. */
export const GET = (_request: Request, { params }: { params: Promise<{ id: string }> }) =>
  reply(async () => {
    const { type, bytes } = services().recordings.sound((await params).id);
    return new Response(new Uint8Array(bytes), {
      headers: {
        'content-type': type,
        'cache-control': 'public, max-age=31536000, immutable',
        'content-disposition': 'inline',
      },
    });
  });
