/**
 * Points and meshes alone: PLY and OBJ. Neither states axes, unit or time; what has faces is a
 * mesh, what has none is a cloud of points. They come in and do not go out.
 */
package flarvo.format.mesh;
