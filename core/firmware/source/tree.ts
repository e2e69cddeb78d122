import type { SyntaxNode } from '@lezer/common'
import type { At, Expr } from './ir.ts'

/** What both readers need of a syntax tree: children by kind, text, places. */
export class TreeReader {
  protected readonly text: string
  protected readonly file: number

  constructor(text: string, file: number) {
    this.text = text
    this.file = file
  }

  protected at({ from, to }: { readonly from: number; readonly to: number }): At {
    return { file: this.file, from, to }
  }

  protected textOf(node: SyntaxNode | undefined | null): string {
    return node ? this.text.slice(node.from, node.to) : ''
  }

  /** Children that are no punctuation or comment. */
  protected parts(node: SyntaxNode): SyntaxNode[] {
    const found: SyntaxNode[] = []
    for (let child = node.firstChild; child; child = child.nextSibling)
      if (/^[A-Z]/.test(child.name) && !/Comment$/.test(child.name)) found.push(child)
    return found
  }

  protected all(node: SyntaxNode): SyntaxNode[] {
    const found: SyntaxNode[] = []
    for (let child = node.firstChild; child; child = child.nextSibling) found.push(child)
    return found
  }

  protected child(node: SyntaxNode, ...names: readonly string[]): SyntaxNode | undefined {
    return this.all(node).find((one) => names.includes(one.name))
  }

  protected unknown(node: SyntaxNode, parts: readonly Expr[] = []): Expr {
    return { kind: 'unknown', parts, at: this.at(node) }
  }

  protected name(name: string, node: { readonly from: number; readonly to: number }): Expr {
    return { kind: 'name', name, at: this.at(node) }
  }
}

/** A number as C++ and Python write it: suffixes, digit separators, any base; undefined for what is none. */
export function numberOf(text: string): { number: number; hex: boolean } | undefined {
  const bare = text.replace(/[_']/g, '')
  const hex = /^0x/i.test(bare)
  const cut = hex ? bare.replace(/[uUlL]+$/, '') : bare.replace(/[uUlLfF]+$/, '')
  if (/^0[0-7]+$/.test(cut)) return { number: Number.parseInt(cut, 8), hex }
  const number = Number(cut.replace(/^B([01]{1,8})$/, '0b$1'))
  return cut === '' || Number.isNaN(number) ? undefined : { number, hex }
}
