/** Interlaced plates: told by measure, and taken apart into fields. */
package flarvo.plate.field;
