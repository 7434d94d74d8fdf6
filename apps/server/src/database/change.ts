import { BaseError, Transaction, type Sequelize } from 'sequelize';

const MOST_TRIES = 4;

/** Whether the database took back a transaction because another stood in its way. */
const isDeadlock = (error: unknown): boolean =>
  error instanceof BaseError &&
  ['ER_LOCK_DEADLOCK', 'ER_CHECKREAD'].includes(
    (error as BaseError & { readonly original?: { readonly code?: string } }).original?.code ?? '',
  );

/** Changes several rows at once: all of them or none. One that another transaction was in the way of is done again. */
export async function change<T>(
  sequelize: Sequelize,
  work: (transaction: Transaction) => Promise<T>,
): Promise<T> {
  for (let tries = 1; ; tries++)
    try {
      return await sequelize.transaction(
        // Rows that are not there are not locked, so that changes of different sounds do not meet.
        { isolationLevel: Transaction.ISOLATION_LEVELS.READ_COMMITTED },
        work,
      );
    } catch (error) {
      if (!isDeadlock(error) || tries === MOST_TRIES) throw error;
    }
}
