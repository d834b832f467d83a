/** What this tab keeps under a key; undefined where there is nothing, or nothing that can be read. */
export function backup(key: string): Record<string, unknown> | undefined {
  try {
    return (JSON.parse(sessionStorage.getItem(key) ?? 'null') as Record<string, unknown> | null) ?? undefined;
  } catch {
    return undefined;
  }
}
