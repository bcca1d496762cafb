/** Widths of screens in CSS pixels (common practice). */
export const WIDTHS = { wide: 1280, tablet: 768, phone: 390 } as const;
