/** Lens distortion out of the plate: the received plates so far. */
package flarvo.desktop.stop.plate;
