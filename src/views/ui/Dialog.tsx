import type { ReactNode } from 'react';
import { I18nProvider, Modal, ModalOverlay, Dialog as Within } from 'react-aria-components';

/** What lies over the page until it is closed: focus stays within and goes back to where it was; Escape closes. */
export function Dialog({
	label,
	wide = false,
	onClose,
	children,
	...data
}: {
	/** What it is, for who does not see it. */
	label: string;
	wide?: boolean;
	onClose: () => void;
	/** The element's own marks. */
	[mark: `data-${string}`]: string | number;
	children: ReactNode;
}) {
	return (
		<I18nProvider locale="en-GB">
			<ModalOverlay
				isOpen
				isDismissable
				onOpenChange={(open) => !open && onClose()}
				className="fixed inset-0 z-40 bg-black/40 flex items-center justify-center p-2"
			>
				<Modal className={wide ? 'w-full max-w-[56rem]' : 'min-w-80'}>
					<Within
						aria-label={label}
						className="max-h-[90vh] overflow-auto border border-base-content rounded bg-base-100 text-base-content p-4 outline-none"
						{...data}
					>
						<button type="button" className="act !font-normal float-right ml-3" onClick={onClose}>
							Close
						</button>
						{children}
					</Within>
				</Modal>
			</ModalOverlay>
		</I18nProvider>
	);
}
