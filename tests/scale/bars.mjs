/** A figure beside its bar; where one is missed, the measurement fails in the end. */
export function tell(what, value, unit, bar) {
  const held = value <= bar;
  process.exitCode = held ? process.exitCode : 1;
  console.log(`${held ? "  " : "✗ "}${what.padEnd(58)} ${value.toFixed(0).padStart(7)} ${unit.padEnd(3)} bar ${bar}`);
}
