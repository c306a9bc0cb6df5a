import type { DoseQuestion, TankEvent, TankRecord, WaterThen } from '@/core/mix/dose/record';

type Writable = { [K in keyof TankRecord]: TankRecord[K] extends readonly (infer T)[] ? T[] : never };
const MINUTE = 60_000;

/** What a person writes down of one tank, minute by minute: the record that advice on doses goes by. */
export class TankNotes {
	readonly record: Writable = { ph: [], ec: [], events: [], alkalinity: [], jugs: [] };
	now = Date.UTC(2026, 5, 1, 8);

	after(minutes: number): this {
		this.now += minutes * MINUTE;
		return this;
	}
	private event(
		e:
			| Omit<Extract<TankEvent, { kind: 'dosed' }>, 'at'>
			| { kind: 'fed' | 'filled' | 'water'; litres?: number; water?: WaterThen | null },
	): this {
		this.record.events.push({ ...(e as TankEvent), at: this.now });
		return this;
	}
	filled(litres = 100, water: Partial<WaterThen> | null = {}): this {
		return this.event({
			kind: 'filled',
			litres,
			water: water && { code: 'well', ecUsCm: null, alkalinityMeqL: null, ...water },
		});
	}
	fed(): this {
		return this.event({ kind: 'fed' });
	}
	topped(litres: number, water: Partial<WaterThen> = {}): this {
		return this.event({ kind: 'water', litres, water: { code: 'well', ecUsCm: null, alkalinityMeqL: null, ...water } });
	}
	ec(usCm: number): this {
		this.record.ec.push({ at: this.now, usCm });
		return this;
	}
	ph(value: number, u = 0.03): this {
		this.record.ph.push({ at: this.now, value, u, by: 'plum' });
		return this;
	}
	dosed(ml: number, sign: -1 | 1 = -1, product = 'acid'): this {
		return this.event({ kind: 'dosed', ml, product, sign });
	}
	/** 100 litres with an air stone, and an acid of 4 meq/mL. */
	question(more: Omit<Partial<DoseQuestion>, 'tank'> & { tank?: Partial<DoseQuestion['tank']> } = {}): DoseQuestion {
		const { tank, ...rest } = more;
		return {
			record: this.record,
			product: { name: 'acid', kind: 'acid', chemical: 'nitric', strengthMeqMl: 4 },
			targetPh: 5.8,
			litres: null,
			ph: null,
			now: this.now,
			doubt: null,
			...rest,
			tank: {
				holdsL: 100,
				aeration: 'air stone',
				mixMinutes: 10,
				tempC: 20,
				range: [5.5, 6.5],
				leastPh: null,
				mostPh: null,
				...tank,
			},
		};
	}
}

/** A filling that was brought to its target in three doses that did what they should, with meq/L in all. */
export function oneFilling(n: TankNotes, meqL = 2.4, ends: readonly [number, number] = [7, 5.8]): TankNotes {
	n.filled().after(30).ec(1800).ph(ends[0]);
	let at = ends[0];
	for (const share of [1 / 3, 1 / 3, 1 / 3]) {
		n.after(1).dosed((share * meqL * 100) / 4);
		at -= share * (ends[0] - ends[1]);
		n.after(12).ph(Number(at.toFixed(2)));
	}
	return n.after(7 * 24 * 60);
}
