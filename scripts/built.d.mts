export const define: Record<string, string>
