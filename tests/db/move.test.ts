import { expect, it } from 'vitest';
import { freshDatabase } from '../helpers/database';
import { moveWhileWriting } from '../helpers/move';

/** From one installation to another by its archive (docs/scaling.md): what was answered before, meanwhile and after is there once. */
it('a site that moves while three write there loses nothing and has nothing twice', async () => {
	const moved = await moveWhileWriting(await freshDatabase('demo'), await freshDatabase('demo'), 12);
	expect(moved.wrong).toEqual([]);
	expect(moved.answered).toBeGreaterThanOrEqual(24);
	// Some were asked for while it was nowhere.
	expect(moved.askedAgain).toBeGreaterThan(0);
});
