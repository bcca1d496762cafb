/**
 * Whether the cursor may go back to the ledger when work on the bench is done. A save takes a moment, and
 * whoever has gone on to the search field or elsewhere by then keeps typing there.
 */
export function mayTakeFocus(): boolean {
  const active = document.activeElement;
  return active === null || active === document.body || active.closest('aside') !== null;
}
