/** What breaks a line, and what turns the direction of what is read after it (Unicode Standard Annex 9): no name holds it. */
export const UNSEEN = /[\p{Cc}\u2028\u2029\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]+/u;
