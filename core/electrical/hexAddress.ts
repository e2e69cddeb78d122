/** `0x76`: two capital hexadecimal digits, as scans print addresses. */
export const hexAddress = (address: number): string => `0x${address.toString(16).toUpperCase().padStart(2, '0')}`
