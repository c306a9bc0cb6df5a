export interface Settings {
	HOST: string;
	PORT: number;
	CORDWAIN_DATA: string;
	DATABASE_URL?: string | undefined;
	CORDWAIN_CHECK_ROWS: boolean;
	CORDWAIN_BACKUPS?: string | undefined;
	CORDWAIN_LAN: boolean;
	CORDWAIN_TLS_PORT: number;
	CORDWAIN_TLS_CERT?: string | undefined;
	CORDWAIN_TLS_KEY?: string | undefined;
	CORDWAIN_HOSTS: string[];
	CORDWAIN_PROXIES: string[];
	MQTT_URL?: string | undefined;
	DATABASE_READS?: string | undefined;
	CORDWAIN_BROKER?: number | undefined;
	CORDWAIN_JOBS: boolean;
	CORDWAIN_MAILBOX?: number | undefined;
	CORDWAIN_LOG: 'silent' | 'error' | 'warn' | 'info' | 'debug';
}
export function backupFolder(s?: Settings): string;
export function settings(env?: Record<string, string | undefined>): Settings;
