import Joi from 'joi';
import { handle, readBody } from '../../../src/server/http/handle';
import { services } from '../../../src/server/services';

const schema = Joi.object<{ stage: boolean }>({ stage: Joi.boolean().required() });

/** Goes to the Stage (true) or back to the Bench. */
export function POST(request: Request): Promise<Response> {
  return handle(request, async () => services().desk.setStage((await readBody(request, schema)).stage));
}
