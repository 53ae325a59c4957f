import { beforeEach, describe, expect, it, vi } from 'vitest';
import { openSaver, type Attempt, type Saver } from '../src/saving/saver.ts';
import { readNumber } from '../src/kit/readNumber.ts';

beforeEach(() => {
  vi.useFakeTimers();
});

describe('what is to be kept', () => {
  let sent: string[], answer: Attempt, saver: Saver;
  const put = (key: string, words: string): void =>
    saver.put(key, () => {
      sent.push(words);
      return Promise.resolve(answer);
    });
  beforeEach(() => {
    sent = [];
    answer = 'done';
    saver = openSaver({ restMs: 200, retryMs: 1000 });
  });
  it('is sent when the hand has rested, the newest only', async () => {
    put('a', 'one');
    await vi.advanceTimersByTimeAsync(150);
    put('a', 'two');
    await vi.advanceTimersByTimeAsync(150);
    expect([sent, saver.state()]).toEqual([[], 'keeping']);
    await vi.advanceTimersByTimeAsync(60);
    expect([sent, saver.state()]).toEqual([['two'], 'kept']);
  });
  it('is tried again until it is taken, ever less often, and says so meanwhile', async () => {
    answer = 'again';
    put('a', 'one');
    await vi.advanceTimersByTimeAsync(250);
    expect(saver.state()).toBe('waiting');
    await vi.advanceTimersByTimeAsync(1000);
    await vi.advanceTimersByTimeAsync(2000);
    expect(sent).toHaveLength(3);
    answer = 'done';
    await vi.advanceTimersByTimeAsync(4000);
    expect([sent.length, saver.state()]).toEqual([4, 'kept']);
  });
  it('is sent at once when asked for, though the hand has not rested; false while the server takes nothing', async () => {
    put('a', 'one');
    put('b', 'two');
    expect(await saver.flush()).toBe(true);
    expect(sent).toEqual(['one', 'two']);
    answer = 'again';
    put('a', 'three');
    expect(await saver.flush()).toBe(false);
  });
  it('what changes while it is being sent is sent after it', async () => {
    let finish: (a: Attempt) => void = () => {};
    saver.put('a', () => new Promise((resolve) => (finish = resolve)));
    await vi.advanceTimersByTimeAsync(250);
    put('a', 'newer');
    finish('done');
    await vi.advanceTimersByTimeAsync(250);
    expect([sent, saver.state()]).toEqual([['newer'], 'kept']);
  });
  it('what the server refuses for good is not sent for ever', async () => {
    answer = 'refused';
    put('a', 'one');
    await vi.advanceTimersByTimeAsync(20000);
    expect([sent.length, saver.state()]).toEqual([1, 'kept']);
  });
});

describe('a number typed', () => {
  it.each([
    ['12', '', 12],
    ['−3,5 EV', 'EV', -3.5],
    [' +0.25', '', 0.25],
    ['1e2', '', 100],
    ['5500K', 'K', 5500],
    ['abc', 'EV', null],
    ['12 apples', 'EV', null],
    ['', '', null],
    ['-', '', null],
    ['1.2.3', '', null],
    ['NaN', '', null],
    ['Infinity', '', null],
  ] as const)('“%s” with unit “%s” is %s', (typed, unit, value) => expect(readNumber(typed, unit)).toBe(value));
});
