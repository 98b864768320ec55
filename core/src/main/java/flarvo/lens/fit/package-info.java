/**
 * Finding a lens from evidence: lines that are straight in the world. Points are canonical pixels
 * of the original picture; residuals are pixels of the original picture across the line.
 */
package flarvo.lens.fit;
