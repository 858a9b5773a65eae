import { loadTogether } from "../src/run/marks";

test("what a bed took is told by the load that fills most of its place, likely future by likely future", () => {
  const held = [
    { cations: 2, anions: 1, strong: Infinity },
    { cations: 1, anions: 4, strong: 1 },
  ];
  const loads = { cations: [300, 300], anions: [200, 200], strong: [900, 100] };
  // 300/2 of cations against 200/1 of anions; then 300/1 of cations against 200/4 and 100/1.
  expect(loadTogether(loads, held, [1, 0])).toBe(200);
  expect(loadTogether(loads, held, [0, 1])).toBe(300);
  expect(loadTogether(loads, held, [0.25, 0.75])).toBe(275);
});
