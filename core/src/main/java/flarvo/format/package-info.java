/**
 * What all file formats have in common. A reader returns a {@link flarvo.format.FileScene} in the
 * file's own space, unit and frames; a writer takes one. The way between a file's space and the
 * canonical world is {@link flarvo.convention.SpaceChange}, used by the packages {@code receive}
 * and {@code dispatch}; a format never converts.
 */
package flarvo.format;
