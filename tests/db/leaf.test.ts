import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';

/** From leaf to cause by the API: what the book knows of a system stands beside what is seen. */
let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());
const ask = async (query: string): Promise<{ status: number; body: Answer }> => {
	const response = await fetch(`${app.base}/api/v1/leaf?${query}`);
	return { status: response.status, body: await response.json() };
};
const ago = (days: number) => new Date(Date.now() - days * 86_400_000).toISOString();

describe('from leaf to cause', () => {
	it('knows nothing of three weeks without readings, and says so', async () => {
		const { body } = await ask('system=gutters&leaves=young&signs=pale_between_veins');
		expect([body.ph, body.ec, body.drain, body.changes]).toEqual([null, null, null, []]);
		expect(body.findings[0].cause).toBe('ph_high');
	});
	it('weighs pH and EC of drain and feed that were read since', async () => {
		const readings = [
			['gutters-feed', 'ec', '1.40', 'mS/cm'],
			['gutters-drain', 'ec', '3.10', 'mS/cm'],
			['gutters-drain', 'ph', '6.05', 'pH'],
			['gutters-feed', 'temp', '19.5', 'C'],
		].flatMap(([station, quantity, value, unit]) =>
			[6, 4, 2].map((day) => ({ station, instrument: 'plum', quantity, value, unit, time: ago(day) })),
		);
		const { samples } = (await postJson(app.base, '/readings', readings)).body;
		// Months after the last readings the checks ask about them: somebody looked.
		const ids = samples.flatMap((s: Answer) => s.readings.map((r: Answer) => ({ id: r.id })));
		expect(ids).toHaveLength(12);
		const kept = await postJson(app.base, '/readings/decisions', { readings: ids, kind: 'keep' });
		expect(kept.status).toBe(200);
		await postJson(app.base, '/events', {
			station: 'gutters-feed',
			kind: 'solution_changed',
			note: 'new batch',
			time: ago(5),
		});
		const { body } = await ask('system=gutters&leaves=all&signs=burnt_tips,wilting');
		expect(body.ph).toMatchObject({ station: 'gutters-drain', readings: 3, median: 6.05, above_share: 0 });
		expect(body.ec).toMatchObject({ station: 'gutters-feed', median_us_cm: 1400 });
		expect(body.drain.above_us_cm).toBe(1700);
		expect(body.temp_c).toBe(19.5);
		expect(body.changes.map((e: Answer) => [e.station, e.kind])).toEqual([['gutters-feed', 'solution_changed']]);
		expect(body.findings[0].cause).toBe('salts');
		expect(body.findings[0].evidence.find((e: Answer) => e.says === 'drain-above').weight).toBeGreaterThan(1);
	});
	it('refuses a sign it does not know, with those it does', async () => {
		const { status, body } = await ask('system=gutters&leaves=young&signs=mouldy');
		expect(status).toBe(422);
		expect(body.errors[0].message).toContain('pale_between_veins');
		expect((await ask('system=attic&leaves=young&signs=slow')).status).toBe(422);
	});
});
