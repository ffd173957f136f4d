import { type QueryInterface, Sequelize } from 'sequelize';
import { Umzug } from 'umzug';
import * as first from './migrations/0001-clinic';

const migrations = [{ name: '0001-clinic', up: first.up }];

/** Brings the tables up to date, as their owner. Each migration runs once, in one transaction. */
export async function migrate(ownerUrl: string): Promise<string[]> {
  const owner = new Sequelize(ownerUrl, { dialect: 'postgres', logging: false });
  try {
    await owner.query(
      'create table if not exists schema_step (name text primary key, ran_at timestamptz default now())'
    );
    const umzug = new Umzug<QueryInterface>({
      migrations: migrations.map(({ name, up }) => ({
        name,
        up: async ({ context }) => {
          await context.sequelize.transaction(async (transaction) => {
            await up((sql) => context.sequelize.query(sql, { transaction }).then(() => undefined));
          });
        }
      })),
      context: owner.getQueryInterface(),
      storage: {
        executed: async () => {
          const [rows] = await owner.query('select name from schema_step order by name');
          return (rows as { name: string }[]).map((row) => row.name);
        },
        logMigration: async ({ name }) => {
          await owner.query('insert into schema_step (name) values ($1)', { bind: [name] });
        },
        unlogMigration: async () => {
          throw new Error('migrations go forwards only');
        }
      },
      logger: undefined
    });
    return (await umzug.up()).map((step) => step.name);
  } finally {
    await owner.close();
  }
}
