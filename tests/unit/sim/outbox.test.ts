import { describe, expect, it } from 'vitest';
import { Outbox, type Tried, type WireSample } from '@/sim/outbox';

const sample = (i: number): WireSample => ({
	at: new Date(i * 1000).toISOString(),
	quantity: 'ph',
	value: i,
	unit: 'pH',
});
describe('what a node keeps', () => {
	it('arrives in order once it is taken again, the same batch until then', async () => {
		const box = new Outbox();
		const heard: number[][] = [];
		let answers: Tried[] = [{ againInS: 0 }, { againInS: 5 }, 'sent', 'sent'];
		const attempt = async (batch: readonly WireSample[]) => {
			heard.push(batch.map((s) => s.value));
			return answers.shift()!;
		};
		box.put([sample(1), sample(2)]);
		await box.send(0, attempt);
		// It waits: a second first, then as long as it was told.
		await box.send(500, attempt);
		expect(heard).toEqual([[1, 2]]);
		await box.send(1000, attempt);
		box.put([sample(3)]);
		await box.send(5000, attempt);
		expect(heard).toHaveLength(2);
		await box.send(6000, attempt);
		expect(heard.at(-1)).toEqual([1, 2, 3]);
		expect(box.size).toBe(0);
		answers = ['refused', 'sent'];
		box.put([sample(4)]);
		await box.send(7000, attempt);
		expect(box.size).toBe(0);
	});
	it('goes in batches of a thousand', async () => {
		const box = new Outbox();
		const sizes: number[] = [];
		box.put(Array.from({ length: 2500 }, (_, i) => sample(i)));
		await box.send(0, async (batch) => {
			sizes.push(batch.length);
			return 'sent';
		});
		expect(sizes).toEqual([1000, 1000, 500]);
	});
});
