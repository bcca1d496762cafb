/** Of this Fastigium, as its package says. */
export const VERSION = '0.1.0';
