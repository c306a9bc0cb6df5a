const HOUR = 3_600_000;
const at = (hoursAgo: number) => new Date(Date.now() - hoursAgo * HOUR).toISOString();

/**
 * A tank of 100 L with an air stone that was filled at night, brought to pH 5.85 in the morning by two equivalents of acid for
 * each litre, and stands at 6.76 now. The acid holds 7.48 meq/mL: 38 % nitric at 1.24 g/mL.
 */
export async function aeratedDay(
	post: (path: string, body: unknown) => Promise<unknown>,
	station: string,
	product: string,
): Promise<void> {
	const event = (kind: string, amount: number, unit: string, of: string, hoursAgo: number) =>
		post('/events', { station, kind, amount, unit, product: of, time: at(hoursAgo) });
	const reading = (quantity: 'ph' | 'ec', value: string, unit: string, hoursAgo: number) =>
		post('/readings', { time: at(hoursAgo), station, instrument: null, quantity, value, unit });
	await post('/products', { name: product, kind: 'acid', chemical: 'nitric', percent_w_w: 38, density_g_ml: 1.24 });
	await event('solution_changed', 100, 'L', 'Borehole', 11);
	await reading('ec', '1.85', 'mS/cm', 10.5);
	await reading('ph', '7.10', 'pH', 10.4);
	for (const [i, [ml, after]] of (
		[
			[1.3, '7.02'],
			[2.7, '6.88'],
			[5.3, '6.63'],
			[9.4, '6.22'],
			[8, '5.85'],
		] as const
	).entries()) {
		await event('acid_added', ml, 'mL', product, 10.3 - 0.5 * i);
		await reading('ph', after, 'pH', 9.9 - 0.5 * i);
	}
	await reading('ph', '6.76', 'pH', 0.02);
}
