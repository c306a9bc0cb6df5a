import type { ReadingRow } from '@/files/readings-row';
import { reserveIds, storeReadings } from '@/store/copy-readings';
import { newestAt } from '@/store/judging';
import type { Client } from '@/store/pool';
import { nextNumber } from '@/store/readings';
import { refreshStatistics } from '@/store/statistics';
import { curvesNow, GrowingErrors } from './errors';
import { Judging } from './judgement';
import { asFresh, restateFresh, settleAnew } from './restate';
import type { SiteContext } from './site';
import { type By, type JudgedRows, judgeAllFrom, judgeRows, newRows, samplesOfRows, storeJudged } from './store-bulk';

/** So many rows change what the database must know of its tables. */
const MANY = 1000;

/**
 * Takes many readings into the store in one pass, within one transaction. While they come in order of time and are newer than all
 * that is stored, they are judged on their way; the next are judged while the database stores those before. Once one comes late,
 * the rest is stored as it is, and everything from the oldest late one on is judged at the end.
 */
export class Intake {
	private judging: Judging | null;
	/** Of its own rows. */
	private lastAt = Number.NEGATIVE_INFINITY;
	private firstAt = Number.POSITIVE_INFINITY;
	private lateFrom = Number.POSITIVE_INFINITY;
	private stored = 0;
	/** What the database is still busy with. */
	private storing: Promise<void> = Promise.resolve();

	private constructor(
		private readonly client: Client,
		private site: SiteContext,
		private readonly by: By & { now: number },
		/** Rows that it stores have this number or a later one. */
		readonly firstId: number,
		/** The newest of what was stored before. */
		private readonly newestBefore: number,
		judging: Judging,
		private growing: GrowingErrors,
	) {
		this.judging = judging;
	}

	static async begin(client: Client, site: SiteContext, by: By & { now: number }): Promise<Intake> {
		const firstId = await nextNumber(client);
		const newest = await newestAt(client, site.site.id);
		const growing = await GrowingErrors.begin(client, site);
		return new Intake(client, site, by, firstId, newest, await Judging.present(client, site, by.now), growing);
	}

	/** Whether rows from a time on may have been stored before. */
	mayKnow(at: number): boolean {
		return at <= this.newestBefore;
	}

	/** The site has stations or instruments that it had not. */
	async changed(site: SiteContext): Promise<void> {
		this.site = site;
		if (this.judging === null) return;
		await this.storing;
		await this.judging.store(this.client);
		this.judging = await Judging.present(this.client, site, this.by.now);
		this.growing = await GrowingErrors.begin(this.client, site);
	}

	/** Rows of which none cuts a sample in two. */
	async take(rows: readonly ReadingRow[]): Promise<void> {
		if (rows.length === 0) return;
		this.stored += rows.length;
		let [last, least] = [this.lastAt, Number.POSITIVE_INFINITY];
		let inOrder = rows[0]!.at > this.newestBefore;
		for (const { at } of rows) {
			if (at < last) inOrder = false;
			last = Math.max(last, at);
			least = Math.min(least, at);
		}
		this.lastAt = last;
		this.firstAt = Math.min(this.firstAt, least);
		const samples = samplesOfRows(rows);
		if (!inOrder && this.judging !== null) await this.giveUpOrder();
		if (this.judging === null) this.lateFrom = Math.min(this.lateFrom, least);
		const judged = this.judging && (await judgeRows(this.judging, rows, samples));
		await this.storing;
		this.storing = this.store(rows, samples, judged);
		// Whoever waits for it next is told; nobody else is surprised.
		this.storing.catch(() => {});
	}

	private async giveUpOrder(): Promise<void> {
		await this.storing;
		await this.judging?.store(this.client);
		this.judging = null;
	}

	private async store(
		rows: readonly ReadingRow[],
		samples: readonly number[],
		judged: JudgedRows | null,
	): Promise<void> {
		const { client, site } = this;
		const ids = await reserveIds(client, rows.length);
		const fresh = newRows(site, rows, samples, ids, this.by);
		if (judged === null) {
			await storeReadings(client, site.site.id, ids, fresh);
			return;
		}
		await storeJudged(client, site.site.id, ids, fresh, judged);
		await restateFresh(
			client,
			site,
			asFresh(site, ids, fresh, (_, i) => judged.verdicts[i]!.u),
			this.growing,
		);
		await this.judging?.storeDays(client);
	}

	/** Brings what was stored to an end. @param seen is told how many readings were judged again */
	async finish(seen: (readings: number) => void = () => {}): Promise<void> {
		await this.storing;
		if (this.judging) {
			if (Number.isFinite(this.firstAt))
				await settleAnew(this.client, this.site, this.firstAt, async (q) => this.growing.of(q));
			const version = await this.judging.store(this.client);
			if (version !== null) this.growing.keep(version);
		} else {
			await refreshStatistics(this.client);
			await judgeAllFrom(this.client, this.site, this.lateFrom, this.by.now, seen);
			if (this.firstAt < this.lateFrom)
				await settleAnew(this.client, this.site, this.firstAt, curvesNow(this.client, this.site));
		}
		// Without knowing the size of what is new the next entry would go through all of it.
		if (this.stored > MANY) await refreshStatistics(this.client);
	}

	/** When the database is no longer busy with any of it. Whoever gives up waits for it: what is on its way would be stored otherwise. */
	async settled(): Promise<void> {
		await this.storing.catch(() => {});
	}
}
