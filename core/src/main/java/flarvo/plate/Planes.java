package flarvo.plate;

import java.util.List;

/**
 * In the decoder's process: the channels of an OpenEXR picture.
 *
 * @param names as the file has them
 * @param values of each channel, rows from the top of the display window; what the data window
 *     leaves out is 0
 */
record Planes(List<String> names, List<float[]> values) {}
