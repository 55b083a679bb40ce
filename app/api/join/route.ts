import { cookieOf, DEVICE_COOKIE } from '../../../src/protocol/devices';
import { joinSchema } from '../../../src/protocol/devicesSchema';
import { LIMITS } from '../../../src/protocol/limits';
import { handle, readBody } from '../../../src/server/http/handle';
import { ownPage } from '../../../src/server/http/lanGate';
import { services } from '../../../src/server/services';

/** As long as browsers keep a cookie. */
const COOKIE_S = 400 * 86_400;

/** Lets a device in that says the code, `{code, name, width, height}`; its token comes back as a cookie that scripts cannot read. */
export async function POST(request: Request): Promise<Response> {
  let token = '';
  const response = await handle(request, async () => {
    const { devices } = services();
    const address = request.headers.get('x-pumice-address') ?? '';
    // A stranger speaks: how often and how much counts before anything that is said.
    await devices.mustMayTry(address);
    const asked = await readBody(request, joinSchema, LIMITS.strangerBodyBytes);
    const joined = await devices.join(asked, address, devices.find(cookieOf(request.headers.get('cookie') ?? undefined, DEVICE_COOKIE)));
    token = joined.token;
    services().log.info({ device: joined.device.name }, 'a device joined');
    return { name: joined.device.name, page: ownPage(joined.device) };
  });
  const secure = request.headers.get('x-forwarded-proto') === 'https' ? '; Secure' : '';
  if (token) response.headers.set('set-cookie', `${DEVICE_COOKIE}=${token}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${COOKIE_S}${secure}`);
  return response;
}
