import { expect, test } from 'vitest';
import { FramePicture } from './framePicture';

test('what can wait for the frame is drawn once, as it was last; all else at once', () => {
  const drawn: number[] = [];
  const picture = new FramePicture<[number]>((level) => drawn.push(level));
  picture.show(1);
  picture.later(() => [2, 3].forEach((level) => picture.show(level)));
  expect(drawn).toEqual([1]);
  picture.catchUp();
  picture.catchUp();
  expect(drawn).toEqual([1, 3]);
});

test('what waits is not drawn over what came after it', () => {
  const drawn: number[] = [];
  const picture = new FramePicture<[number]>((level) => drawn.push(level));
  picture.later(() => picture.show(1));
  picture.show(2);
  picture.catchUp();
  expect(drawn).toEqual([2]);
});

test('work that fails leaves nothing waiting', () => {
  const drawn: number[] = [];
  const picture = new FramePicture<[number]>((level) => drawn.push(level));
  expect(() => picture.later(() => { throw new Error('unplugged'); })).toThrow('unplugged');
  picture.show(1);
  expect(drawn).toEqual([1]);
});
