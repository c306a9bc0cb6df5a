import { QUANTITY } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { askAgain, useAsked } from '../data/queries';
import { Dialog } from '../ui/Dialog';
import { dateTime, shownWithUnit } from '../ui/format';
import { StandingMark } from '../ui/StandingMark';
import { Opened } from './Opened';

/** A reading opened over the page it was seen on. Escape goes back to where it was opened. */
export default function ReadingDialog({ id, site, onClose }: { id: number; site: SiteView; onClose: () => void }) {
	const { data, error } = useAsked('GET /readings/:id/history', { params: { id } });
	const reading = data?.readings.find((r) => r.id === id);
	const name = site.stations.find((s) => s.info.code === reading?.station)?.name ?? reading?.station;
	return (
		<Dialog
			label={reading ? `${name}, ${QUANTITY[reading.quantity].name}` : 'A reading'}
			wide
			onClose={onClose}
			data-reading-dialog={id}
		>
			{reading ? (
				<>
					<h2 className="text-[1.2rem]">
						{name}, {dateTime(Date.parse(reading.time), site.timezone)}:{' '}
						{shownWithUnit(reading.quantity, reading.restated ?? reading.canonical_value, site.units)}{' '}
						<StandingMark standing={standingOf(reading)} word />
					</h2>
					{reading.message && <p>{reading.message}</p>}
					<Opened
						reading={reading}
						site={site}
						onDone={() => {
							void askAgain();
							window.dispatchEvent(new Event('cordwain:changed'));
							onClose();
						}}
					/>
				</>
			) : (
				<p>{error ? error.message : 'It is being fetched…'}</p>
			)}
		</Dialog>
	);
}
