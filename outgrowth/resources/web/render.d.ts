/** An element as HTML, for a server: what a browser shows before any script has come. */
export declare function render<Name extends keyof HTMLElementTagNameMap>(
  name: Name,
  properties?: Partial<Omit<HTMLElementTagNameMap[Name], keyof HTMLElement>> & Record<string, unknown>,
  inside?: string,
  options?: { nonce?: string; picture?: (address: string) => string; roles?: string[] },
): string;
