import { season } from '../src/season';

test.each([
  ['2026-08-31', '2026-09-01', '2026-11-30'],
  ['2026-11-30', '2026-09-01', '2026-11-30'],
  ['2026-12-01', '2027-09-01', '2027-11-30'],
])('a season within a year, on %s', (today, from, to) => {
  expect(season('09-01', '11-30', today)).toEqual({ from, to });
});

test.each([
  ['2026-12-01', '2026-10-15', '2027-03-15'],
  ['2027-03-15', '2026-10-15', '2027-03-15'],
  ['2027-03-16', '2027-10-15', '2028-03-15'],
  ['2027-10-14', '2027-10-15', '2028-03-15'],
])('a season over the turn of the year, on %s', (today, from, to) => {
  expect(season('10-15', '03-15', today)).toEqual({ from, to });
});

test('whatever the day, it is on or comes within a year', () => {
  for (let day = 0; day < 800; day++) {
    const today = new Date(Date.UTC(2027, 0, 1 + day)).toISOString().slice(0, 10);
    const { from, to } = season('11-15', '02-28', today);
    expect(to >= today && from <= `${Number(today.slice(0, 4)) + 1}${today.slice(4)}`).toBe(true);
  }
});
