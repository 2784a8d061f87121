/**
 * A record of `plants`. Written by `yucca types plants` from all records; when they change, run it again.
 */
export type PlantsRecord = {
  id: string;
  name: string;
  colour: string;
  care: string;
  price: number;
  category: string;
  stock: number;
};
