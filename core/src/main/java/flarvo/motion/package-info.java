/**
 * Motion that changes hands: the same picture with the camera held and the scene moving, a zoom on
 * the film back, another part of the picture, another time.
 */
package flarvo.motion;
