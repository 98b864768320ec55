/** Folders of shots: finding what belongs to which shot, and making the folders of a new one. */
package flarvo.folder;
