/**
 * The hand-over note: a page that travels with the files and stands alone, and the same as JSON. It
 * says what was sent, what each recipient has to set, and the proof, made from the files on disk.
 */
package flarvo.note;
