/** Text made safe for element content and quoted attributes. */
export const escapeText = (text: string): string => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`)
