import { describe, expect, it } from 'vitest'
import { base64, fileOf, isKept } from './kept'

describe('files clients keep', () => {
  it('are told by their ids', () => {
    expect([1, 999_999_999_999, 1_000_000_000_000, 1_234_567_890_001].map(isKept)).toEqual([false, false, true, true])
  })

  it('hold a client and the returns that follow it', () => {
    expect([1_234_567_890_000, 1_234_567_890_001, 1_234_567_890_999].map(fileOf)).toEqual(
      Array(3).fill(1_234_567_890_000),
    )
  })

  it('are sent as base64, byte for byte, however long they are', async () => {
    const bytes = Uint8Array.from({ length: 30_000 }, (_, at) => (at * 7) % 256)
    const text = await base64(new Blob([bytes]))
    expect(Buffer.from(text, 'base64').equals(Buffer.from(bytes))).toBe(true)
  })
})
