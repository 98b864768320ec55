/** How good a solve is, in pixels of the undistorted plate. */
package flarvo.vet;
