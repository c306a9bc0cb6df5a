import { checkRows } from '@/store/read';

/** In every test, every row that comes from the database is held against what was declared of it. */
checkRows();
