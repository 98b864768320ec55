/**
 * A camera and points from 2D tracks alone: a first pair of frames, then frame after frame and
 * point after point, adjusted together as it grows. The scale is free; the first camera stands at
 * the origin. Spaces and units are those of {@link flarvo.vet.adjust}.
 */
package flarvo.vet.resolve;
