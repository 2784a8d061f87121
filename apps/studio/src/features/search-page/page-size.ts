/** Results on one page of a hosted search page. */
export const PAGE_SIZE = 24;
