/** What this browser keeps under a key; undefined where there is nothing, or nothing that can be read. */
export function backup(key: string): Record<string, unknown> | undefined {
  try {
    return (JSON.parse(localStorage.getItem(key) ?? 'null') as Record<string, unknown> | null) ?? undefined;
  } catch {
    return undefined;
  }
}
