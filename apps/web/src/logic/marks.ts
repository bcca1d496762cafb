/** State marks: a keystone in one of five materials; words always stand beside it. */
export type Mark = 'verdigris' | 'ochre' | 'madder' | 'dashed' | 'lapis';
