/**
 * Pictures through a lens: undistorting, redistorting and distortion maps. Pixels are canonical
 * (the centre of the first pixel at 0.5, 0.5); overscan is counted from the original picture's
 * edges, outwards. Light is taken as it is encoded, or linear; see {@link
 * flarvo.plate.remap.Light}.
 */
package flarvo.plate.remap;
