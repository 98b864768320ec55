/** Plates: numbered pictures on disk, found by their names and read by libraries. */
package flarvo.plate;
