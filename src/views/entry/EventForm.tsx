import { Suspense, useState } from 'react';
import type { SiteView } from '@/core/reading/site-view';
import { later } from '../ui/later';

const EventEntry = later(() => import('./EventEntry'));

/** What happened to an event that was logged, with its way back. */
export interface Logged {
	words: string;
	/** Of the stored event; null while it waits on this device. */
	id: number | null;
}

/** Logs what was done to the water at a station, so that the next reading is held against it. */
export function EventForm(props: { site: SiteView; station: string; onLogged: (logged: Logged) => void }) {
	const [opened, setOpened] = useState(false);
	const name = props.site.stations.find((s) => s.info.code === props.station)?.name ?? props.station;
	return (
		<details
			className="border-t border-line mt-3 pt-2"
			data-event-form
			onToggle={(e) => e.currentTarget.open && setOpened(true)}
		>
			<summary className="cursor-pointer text-soft min-h-8">Something was done to the water at {name}: log it</summary>
			{opened && (
				<Suspense>
					<EventEntry {...props} />
				</Suspense>
			)}
		</details>
	);
}
