import { expect, it } from 'vitest';
import { ipAddress, oscHost } from '../../../protocol/rig/pieces';
import { hostFrom, isIpAddress } from './fromText';

it('a page takes for an IP address what the server does', () => {
  const texts = ['192.168.1.20', '0.0.0.0', '255.255.255.255', '192.168.1.256', '192.168.1', '192.168.1.2.3', '1e1.0.0.1', '-1.0.0.1', ' 10.0.0.1', '10.0.0.0/8', 'fe80::1', 'ferry', '010.0.0.1', '1.2.3.00', ''];
  expect(texts.filter(isIpAddress)).toEqual(['192.168.1.20', '0.0.0.0', '255.255.255.255']);
  expect(texts.filter((text) => !ipAddress.required().validate(text).error)).toEqual(texts.filter(isIpAddress));
  expect(ipAddress.label('sender').validate('ferry').error?.message).toBe('"sender" must be an IP address, as 192.168.1.20');
});

it('an address as the display of a device says it is the one that is meant; what is none stays as it was written', () => {
  expect(['192.168.001.020', ' 010.0.0.1 ', '127.0.0.1', 'fe80::0012', '1.2.3', 'ferry 01.2.3.4'].map(hostFrom)).toEqual(['192.168.1.20', '10.0.0.1', '127.0.0.1', 'fe80::0012', '1.2.3', 'ferry 01.2.3.4']);
  expect(['192.168.1.255', 'fe80::0012', '00fe::1'].every((host) => !oscHost.validate(host).error)).toBe(true);
  expect(['10.0.0.0/8', '010.0.0.1', '1.2.3.00', '::1/64'].filter((host) => !oscHost.validate(host).error)).toEqual([]);
});
