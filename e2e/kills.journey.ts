/** The page and the browser killed from outside; `npm run kills` does it sixty times. */
import { expect, test } from './journey';
import { Victim } from './kills/kills';

test('killed at moments of chance, no edit older than a second is missing and nothing half made is offered', async ({
  stage,
}) => {
  test.setTimeout(120_000);
  const victim = await Victim.begin(stage.address, 11);
  try {
    for (let n = 0; n < 3; n++) {
      const { activity, what, faults } = await victim.once();
      expect(faults, `${what} killed while ${activity}`).toEqual([]);
    }
  } finally {
    await victim.end();
  }
});
