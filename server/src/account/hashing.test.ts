import { inTurn } from './hashing.ts';

test('two passwords are hashed at once, twenty wait, and who comes then is asked to try again', async () => {
  let busy = 0;
  let most = 0;
  const release: (() => void)[] = [];
  const hash = () => {
    most = Math.max(most, ++busy);
    return new Promise<void>((done) =>
      release.push(() => {
        busy--;
        done();
      }),
    );
  };
  const all = Array.from({ length: 22 }, () => inTurn(hash));
  await expect(inTurn(hash)).rejects.toMatchObject({ code: 'session.busy' });
  expect(release).toHaveLength(2);
  while (release.length) {
    release.shift()!();
    await new Promise(setImmediate);
  }
  await Promise.all(all);
  expect(most).toBe(2);
  // One that fails gives its turn on.
  await expect(inTurn(() => Promise.reject(new Error('no')))).rejects.toThrow('no');
  await inTurn(() => Promise.resolve());
});
