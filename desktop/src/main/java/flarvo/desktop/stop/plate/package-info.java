/** Lens distortion out of the plate: the lens over the picture, and undistorted sequences. */
package flarvo.desktop.stop.plate;
