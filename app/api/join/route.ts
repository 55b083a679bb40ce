import { DEVICE_COOKIE } from '../../../src/protocol/devices';
import { joinSchema } from '../../../src/protocol/devicesSchema';
import { handle, readBody } from '../../../src/server/http/handle';
import { ownPage } from '../../../src/server/http/lanGate';
import { services } from '../../../src/server/services';

/** As long as browsers keep a cookie. */
const COOKIE_S = 400 * 86_400;

/** Lets a device in that says the code, `{code, name, width, height}`; its token comes back as a cookie that scripts cannot read. */
export async function POST(request: Request): Promise<Response> {
  let token = '';
  const response = await handle(request, async () => {
    const joined = await services().devices.join(await readBody(request, joinSchema), request.headers.get('x-pumice-address') ?? '');
    token = joined.token;
    services().log.info({ device: joined.device.name }, 'a device joined');
    return { name: joined.device.name, page: ownPage(joined.device) };
  });
  const secure = request.headers.get('x-forwarded-proto') === 'https' ? '; Secure' : '';
  if (token) response.headers.set('set-cookie', `${DEVICE_COOKIE}=${token}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${COOKIE_S}${secure}`);
  return response;
}
