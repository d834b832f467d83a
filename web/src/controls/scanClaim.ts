import { useEffect } from 'react';

type Claim = (code: string) => boolean;

const claims = new Set<Claim>();

/** Whether some field on show takes this code for itself. */
export const claimed = (code: string): boolean => [...claims].some((claim) => claim(code));

/** While this is on show a scanned code is offered to it first; it says whether it took it. */
export function useScanClaim(claim: Claim): void {
  useEffect(() => {
    claims.add(claim);
    return () => {
      claims.delete(claim);
    };
  }, [claim]);
}
