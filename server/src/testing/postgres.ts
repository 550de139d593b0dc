import { PGlite } from '@electric-sql/pglite';
import { PGLiteSocketServer } from '@electric-sql/pglite-socket';

/** PostgreSQL itself, compiled to run inside this process, for a test. */
export class TestPostgres {
  private constructor(
    readonly url: string,
    private readonly database: PGlite,
    private readonly socket: PGLiteSocketServer,
  ) {}

  static async start(): Promise<TestPostgres> {
    const database = await PGlite.create();
    const socket = new PGLiteSocketServer({ db: database, port: 0, host: '127.0.0.1', maxConnections: 20 });
    await socket.start();
    const url = `postgres://postgres:postgres@${socket.getServerConn()}/postgres`;
    return new TestPostgres(url, database, socket);
  }

  async stop(): Promise<void> {
    await this.socket.stop();
    await this.database.close();
  }
}
