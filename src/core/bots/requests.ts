import type { Request } from './conversation';
import type { Lead, Run } from './run';

type RequestBody = Request extends infer R ? (R extends Request ? Omit<R, 'number'> : never) : never;

/** Asks the driver for something; the conversation goes on with its reply. */
export function request(run: Run, body: RequestBody): Lead {
  const asked = { ...body, number: run.state.requests + 1 };
  run.state = { ...run.state, status: 'asking', asked, requests: asked.number };
  run.acts.push({ type: 'request', request: asked });
  return 'stop';
}
