/** What pictures say besides their pixels: read from each format, and put into what is written. */
package flarvo.plate.tag;
