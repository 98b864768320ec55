/** Edges of a picture, traced to a fraction of a pixel: the evidence that a lens is fitted to. */
package flarvo.plate.edge;
