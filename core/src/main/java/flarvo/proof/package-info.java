/** The evidence that a delivered file holds, measured on the file read back from disk. */
package flarvo.proof;
