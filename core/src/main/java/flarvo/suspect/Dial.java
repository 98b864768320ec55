package flarvo.suspect;

/** A value of a scene that is fitted; factors are turned by their logarithm. */
enum Dial {
  FOCAL {
    @Override
    void turn(TriedScene.Knobs k, double by) {
      k.kx *= Math.exp(by);
      k.ky *= Math.exp(by);
    }
  },
  WIDTH {
    @Override
    void turn(TriedScene.Knobs k, double by) {
      double f = Math.exp(by);
      k.kx *= f;
      k.shiftX *= f;
      k.moveX *= f;
    }
  },
  HEIGHT {
    @Override
    void turn(TriedScene.Knobs k, double by) {
      double f = Math.exp(by);
      k.ky *= f;
      k.shiftY *= f;
      k.moveY *= f;
    }
  },
  BACK {
    @Override
    void turn(TriedScene.Knobs k, double by) {
      WIDTH.turn(k, by);
      HEIGHT.turn(k, by);
    }
  },
  ACROSS {
    @Override
    void turn(TriedScene.Knobs k, double by) {
      k.moveX += by;
    }
  },
  DOWN {
    @Override
    void turn(TriedScene.Knobs k, double by) {
      k.moveY += by;
    }
  },
  RADIAL {
    @Override
    void turn(TriedScene.Knobs k, double by) {
      k.radial += by;
    }
  },
  PICTURE {
    @Override
    void turn(TriedScene.Knobs k, double by) {
      k.scale *= Math.exp(by);
    }
  },
  UNIT {
    @Override
    void turn(TriedScene.Knobs k, double by) {
      double f = Math.exp(by);
      k.points = Axes.times(f, k.points);
      k.offset = new double[] {f * k.offset[0], f * k.offset[1], f * k.offset[2]};
    }
  };

  /** Turns it on, from where it stands; pixels, a radial term, or the logarithm of a factor. */
  abstract void turn(TriedScene.Knobs k, double by);
}
