/** The way of a visitor, as the core reckons it and as it is told. */
import type { ProofWay } from '@fastigium/contracts/api/redirectProof';
import type { Proof } from '@fastigium/core/redirects';

export function judgeWay({ hops, end }: Proof, home: string | undefined): ProofWay {
  return {
    hops: hops.map(({ address, status }) => ({ address, status })),
    end: end.kind === 'page' && end.file === home ? 'home' : end.kind,
    final:
      end.kind === 'page'
        ? end.address
        : end.kind === 'outside'
          ? end.url
          : end.kind === 'missing'
            ? end.address
            : null,
  };
}
