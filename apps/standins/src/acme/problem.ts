/** What an authority says no with (RFC 8555, section 6.7). */
export interface Problem {
  readonly type: string;
  readonly detail: string;
  readonly status: number;
}

export class AcmeProblem extends Error {
  readonly problem: Problem;

  constructor(status: number, type: string, detail: string) {
    super(detail);
    this.problem = { type: `urn:ietf:params:acme:error:${type}`, detail, status };
  }
}
