import { expect, it } from 'vitest';
import { ipAddress } from '../../../protocol/rig/pieces';
import { isIpAddress } from './fromText';

it('a page takes for an IP address what the server does', () => {
  const texts = ['192.168.1.20', '0.0.0.0', '255.255.255.255', '192.168.1.256', '192.168.1', '192.168.1.2.3', '1e1.0.0.1', '-1.0.0.1', ' 10.0.0.1', '10.0.0.0/8', 'fe80::1', 'ferry', ''];
  expect(texts.filter(isIpAddress)).toEqual(['192.168.1.20', '0.0.0.0', '255.255.255.255']);
  expect(texts.filter((text) => !ipAddress.required().validate(text).error)).toEqual(texts.filter(isIpAddress));
  // The server takes this one, and would wait for a sender that no computer is called by.
  expect(isIpAddress('010.0.0.1')).toBe(false);
  expect(ipAddress.label('sender').validate('ferry').error?.message).toBe('"sender" must be an IP address, as 192.168.1.20');
});
