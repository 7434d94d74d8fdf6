/** Where the database is and who we are to it. */
export interface DatabaseAddress {
  readonly host: string;
  readonly port: number;
  readonly username: string;
  readonly password: string;
  readonly database: string;
}
