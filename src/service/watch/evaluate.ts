import { seriesQuantity } from '@/core/quantity';
import { startOfDay } from '@/core/quantity/time';
import { sheetDay } from '@/core/rhythm/sheet-row';
import { STREAM_CAUSES } from '@/core/series/findings';
import { windowTo } from '@/core/trend/forecast';
import { cutsOf } from '@/core/trend/trend';
import { belowLevel, doubtful, outOfRange, silent, type WatchedPoint, type WatchState } from '@/core/watch/condition';
import { listEvents } from '@/store/events';
import type { Db } from '@/store/pool';
import { episodesWithin } from '@/store/sensors/episodes';
import { listSeries, type SensorSeries } from '@/store/sensors/nodes';
import type { ConditionRow } from '@/store/watch';
import { believedReadings } from '../believed';
import { seriesOf } from '../sensors/series';
import type { SiteContext } from '../site';

/** What conditions come to, by what is believed now; each thing that several ask for is read once. */
const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** Of a sensor so long is looked back; of hands a reading tells of its water for so long. */
const SENSOR_MS = 26 * HOUR;
const HANDS_MS = 2 * DAY;
/** A pace is that of the last days. */
const PACE_MS = 21 * DAY;
const PACE_SENSOR_MS = 5 * DAY;
const MOST_EVENTS = 2000;

export interface Watched {
	state: WatchState;
	/** When a limit is expected to be reached. */
	expectedAt: number | null;
}

export class Watching {
	private series: SensorSeries[] | null = null;

	constructor(
		private readonly db: Db,
		private readonly context: SiteContext,
		private readonly now: number,
	) {}

	/** @param told what it came to last was told already */
	async look(c: ConditionRow, told: boolean): Promise<Watched> {
		const plain = (state: WatchState): Watched => ({ state, expectedAt: null });
		const station = this.context.stations.find((s) => s.id === c.stationId);
		if (!station || station.retired) return plain({ holds: false });
		switch (c.kind) {
			case 'silent': {
				const all = await this.seriesHere(c);
				const newest = all.reduce<number | null>(
					(m, s) => (s.newestAt === null ? m : Math.max(m ?? s.newestAt, s.newestAt)),
					null,
				);
				return plain(silent(newest, c.minutes ?? 60, this.now));
			}
			case 'out-of-water':
				return plain(doubtful(await this.goingOn(c, ['probe-in-air']), 0, this.now));
			case 'doubtful':
				return plain(doubtful(await this.goingOn(c, STREAM_CAUSES), c.minutes ?? 60, this.now));
			case 'below-level':
				return plain(belowLevel(await this.points(c, SENSOR_MS, HANDS_MS), c.least ?? 0, told));
			case 'out-of-range': {
				const range = this.rangeOf(c);
				if (!range) return plain(null);
				return plain(outOfRange(await this.points(c, SENSOR_MS, HANDS_MS), range, c.minutes ?? 30, this.now, told));
			}
			case 'will-leave':
				return this.willLeave(c);
		}
	}

	private rangeOf(c: ConditionRow): { low: number; high: number } | null {
		const range = c.quantity && this.context.stations.find((s) => s.id === c.stationId)?.ranges[c.quantity];
		return range ? { low: range[0], high: range[1] } : null;
	}

	private async seriesHere(c: ConditionRow): Promise<SensorSeries[]> {
		this.series ??= await listSeries(this.db, this.context.site.id);
		return this.series.filter((s) => s.stationId === c.stationId && (c.quantity === null || s.quantity === c.quantity));
	}

	/** Stretches of these causes that the newest sample of their series is one of. */
	private async goingOn(c: ConditionRow, causes: readonly string[]): Promise<{ since: number }[]> {
		const all = await this.seriesHere(c);
		if (all.length === 0) return [];
		const rows = await episodesWithin(
			this.db,
			this.context.site.id,
			all.map((s) => s.id),
			this.now - 30 * DAY,
			this.now + DAY,
		);
		return rows.filter(
			(e) =>
				causes.includes(STREAM_CAUSES[e.cause]!) &&
				e.until >= (all.find((s) => s.id === e.seriesId)?.newestAt ?? Number.POSITIVE_INFINITY),
		);
	}

	/** What is believed of a quantity, ascending: what its sensor tells, else what hands read. */
	private async points(c: ConditionRow, sensorMs: number, handsMs: number): Promise<WatchedPoint[]> {
		if (c.quantity === null) return [];
		const told = await seriesOf(this.db, this.context, {
			station: c.station,
			quantity: c.quantity,
			of: 'sensor',
			from: this.now - sensorMs,
			to: this.now + 5 * 60_000,
			points: 600,
		});
		const believed = told.points.filter((p) => p.believed > 0);
		if (believed.length > 0) return believed.map((p) => ({ at: p.at, value: p.restated ?? p.value }));
		const hands = await believedReadings(this.db, this.context, c.station, seriesQuantity(c.quantity), {
			from: this.now - handsMs,
		});
		return hands.map(({ at, value }) => ({ at, value }));
	}

	private async willLeave(c: ConditionRow): Promise<Watched> {
		const range = this.rangeOf(c);
		if (!range || c.quantity === null) return { state: null, expectedAt: null };
		const points = (await this.points(c, PACE_SENSOR_MS, PACE_MS)).map((p) => ({ ...p, u: 0 }));
		const newest = points.at(-1);
		if (!newest) return { state: null, expectedAt: null };
		// What has left it already is another condition’s.
		if (newest.value < range.low || newest.value > range.high) return { state: { holds: false }, expectedAt: null };
		const events = await listEvents(this.db, this.context.site.id, {
			from: points[0]!.at,
			to: this.now,
			station: c.station,
			limit: MOST_EVENTS,
		});
		const kinds = cutsOf(c.quantity);
		const cuts = events.filter((e) => kinds.includes(e.kind)).map((e) => e.at);
		const zone = this.context.site.timezone;
		const dayOf = (at: number) => startOfDay(sheetDay(at, zone), zone) ?? at;
		for (const limit of [range.low, range.high]) {
			const window = windowTo(points, cuts, limit, this.now, dayOf);
			if (window && window.middle <= this.now + (c.hours ?? 24) * HOUR)
				return { state: { holds: true, since: this.now, value: newest.value, limit }, expectedAt: window.middle };
		}
		return { state: { holds: false }, expectedAt: null };
	}
}
