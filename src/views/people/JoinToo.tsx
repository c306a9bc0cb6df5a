import { api } from '../data/client';
import { forgetPages } from '../data/offline';
import { CodeField } from './OneLine';
import { useRefused } from './use-refused';

/** Joins one more site by the code that its grower shows, as who one is already. */
export function JoinToo({
	code,
	setCode,
	as,
}: {
	code: string;
	setCode: (text: string) => void;
	/** Who one is. */
	as: string;
}) {
	const { wrong, busy, attempt } = useRefused();
	return (
		<form
			className="grid gap-3"
			aria-label="Join one more site"
			onSubmit={async (e) => {
				e.preventDefault();
				await attempt(async () => {
					const { site_id } = await api('POST /me/join', { body: { code } });
					await forgetPages();
					location.assign(`/?site=${site_id}`);
				});
			}}
		>
			<h2>Join by a code</h2>
			<CodeField
				label="Code that the grower of another site shows"
				value={code}
				onChange={setCode}
				wrong={wrong.code ?? wrong['']}
			/>
			<div>
				<button type="submit" className="act" disabled={busy || code.trim() === ''}>
					Join as {as}
				</button>
			</div>
		</form>
	);
}
