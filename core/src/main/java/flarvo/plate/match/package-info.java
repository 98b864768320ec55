/** Whether plates belong to a camera and to each other, measured in their pixels. */
package flarvo.plate.match;
