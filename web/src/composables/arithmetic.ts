/**
 * What a value field accepts: a number, or a sum such as 320/3 or (12+4)*2. Returns undefined for
 * anything else. A comma is read as a decimal point.
 */
export function arithmetic(text: string): number | undefined {
  const tokens = text.replace(/,/g, '.').match(/\d+\.?\d*(?:e[+-]?\d+)?|\.\d+|[-+*/()]|\S/gi) ?? []
  let at = 0
  const take = (...signs: string[]): string | undefined => (signs.includes(tokens[at] ?? '') ? tokens[at++] : undefined)

  function atom(): number {
    if (take('-')) return -atom()
    if (take('+')) return atom()
    if (take('(')) {
      const inner = sum()
      return take(')') ? inner : NaN
    }
    const token = tokens[at++] ?? ''
    return /^[\d.]/.test(token) ? Number(token) : NaN
  }

  function product(): number {
    let value = atom()
    for (let sign = take('*', '/'); sign; sign = take('*', '/')) value = sign === '*' ? value * atom() : value / atom()
    return value
  }

  function sum(): number {
    let value = product()
    for (let sign = take('+', '-'); sign; sign = take('+', '-')) value = sign === '+' ? value + product() : value - product()
    return value
  }

  const result = sum()
  return at === tokens.length && Number.isFinite(result) ? result : undefined
}
