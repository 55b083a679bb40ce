import type { QueryInterface } from 'sequelize';
import type { RunnableMigration } from 'umzug';

export type Migration = RunnableMigration<QueryInterface>;
