/** The numbers of an ASC CDL v1.2, on code values: slope, offset and power by channel, then saturation. */
export interface Cdl {
  slope: [number, number, number];
  offset: [number, number, number];
  power: [number, number, number];
  saturation: number;
}
