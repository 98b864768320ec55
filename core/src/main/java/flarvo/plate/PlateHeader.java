package flarvo.plate;

import flarvo.scene.PictureSize;
import flarvo.scene.PlateFacts;

/** Size and nature of one picture, read without decoding it. */
record PlateHeader(PictureSize size, PlateFacts facts) {}
