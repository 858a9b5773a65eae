/** UUID (version 7), made where the record is made. */
export type Id = string;
/** ISO 8601 with its offset, such as `2027-03-01T08:10:00.000Z`. */
export type Instant = string;
