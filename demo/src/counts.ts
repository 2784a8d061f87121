/** How many records of each collection Quillbrook has. */
export const COUNTS = { plants: 3000, guides: 400, gardens: 120 };
