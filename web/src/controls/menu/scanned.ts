/** The page that a scanned code names: the page of an address of ours, else the machines that it finds. */
export function pageOf(code: string): string {
  const text = code.trim();
  const path = text.startsWith(`${window.location.origin}/`) ? text.slice(window.location.origin.length) : text;
  return /^\/(?!\/)/.test(path) ? path : `/machines?find=${encodeURIComponent(path)}`;
}
