import sqlite3 from 'sqlite3';

type Opened = (error: Error | null) => void;

/** Connections to SQLite for Sequelize, durable from their first statement. */
export interface Connections {
  readonly Database: new (file: string, mode: number, opened: Opened) => sqlite3.Database;
  /** Runs one statement on a file, on a connection of its own that waits for no reader. Durable when it resolves. */
  run(file: string, sql: string, values: readonly unknown[]): Promise<void>;
  /** Closes those that are kept. */
  end(): Promise<void>;
}

const PRAGMAS =
  'PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA busy_timeout=8000; PRAGMA secure_delete=ON; PRAGMA cache_size=-16000;';

/**
 * Sequelize opens a connection for each transaction and closes it afterwards. One that is closed is kept here and given out
 * again: opening a file and setting it up costs more than most transactions do.
 */
export function durableConnections(): Connections {
  const kept: Durable[] = [];

  class Durable extends sqlite3.Database {
    constructor(file: string, mode: number, opened: Opened) {
      const idle = kept.pop();
      if (idle) {
        process.nextTick(opened, null);
        return idle;
      }
      super(file, mode, (error) => {
        if (error) return opened(error);
        this.exec(PRAGMAS, opened);
      });
    }

    override close(closed?: (error: Error | null) => void): void {
      kept.push(this);
      if (closed) process.nextTick(closed, null);
    }

    end(): Promise<void> {
      return new Promise((resolve, reject) => {
        super.close((error) => (error ? reject(error) : resolve()));
      });
    }
  }

  let own: Promise<Durable> | null = null;
  const opened = (file: string): Promise<Durable> =>
    (own ??= new Promise((resolve, reject) => {
      const made: Durable = new Durable(file, sqlite3.OPEN_READWRITE, (error) => {
        if (!error) return resolve(made);
        own = null;
        reject(error);
      });
    }));

  return {
    Database: Durable,
    async run(file, sql, values) {
      const connection = await opened(file);
      await new Promise<void>((resolve, reject) => {
        connection.run(sql, values, (error) => (error ? reject(error) : resolve()));
      });
    },
    async end() {
      await (await own)?.end();
      for (let one = kept.pop(); one; one = kept.pop()) await one.end();
    },
  };
}
