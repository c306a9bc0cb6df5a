import type { Quantity } from '@/core/quantity';
import type { SiteInstrument, SiteStation, SiteView } from '@/core/reading/site-view';
import type { Texts } from './draft';
import { LiveMeter } from './LiveMeter';
import { SettleWatch } from './SettleWatch';

/** The minute of measuring: a meter that speaks by itself, else a watch that says how long this water wants. */
export function Measuring({
	run,
	site,
	meter,
	station,
	ecHereUsCm,
	onStep,
	onTake,
	onWaited,
	onSettled,
}: {
	/** Another begins it anew. */
	run: number;
	site: SiteView;
	meter: SiteInstrument | undefined;
	station: Pick<SiteStation, 'name' | 'usualWaitS'> & { code: string };
	ecHereUsCm: number | null;
	onStep: (code: string) => void;
	onTake: (texts: Texts, waitS: number | null) => void;
	onWaited: (waitS: number | null) => void;
	onSettled: (q: Quantity, digits: string) => void;
}) {
	if (meter?.live && meter.live !== 'none')
		return (
			<LiveMeter
				key={`${meter.info.code}${station.code}${run}`}
				instrument={meter.info.code}
				name={meter.name}
				simulated={meter.live === 'simulated'}
				station={station.code}
				stationName={station.name}
				ecHereUsCm={ecHereUsCm}
				waits={site.settings.waits}
				units={site.units}
				onStep={onStep}
				onTake={({ texts, waitS }) => onTake(texts, waitS)}
			/>
		);
	return (
		<SettleWatch
			key={`${station.code}${run}`}
			ecHereUsCm={ecHereUsCm}
			waits={site.settings.waits}
			usualWaitS={station.usualWaitS}
			onWaited={onWaited}
			onSettled={onSettled}
		/>
	);
}
