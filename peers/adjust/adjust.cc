// Adjusts a bundle that our program wrote with the Ceres solver: sparse Schur complement, analytic
// derivatives, two threads. Prints name, milliseconds, final cost (half of the sum of squares), tab
// between. See AdjustBench for the file.
#include <ceres/ceres.h>

#include <chrono>
#include <cstdio>
#include <fstream>
#include <vector>

namespace {

// A camera is its turn (camera to world, row by row) and its centre; a step turns it on its own axes.
class CameraManifold : public ceres::Manifold {
 public:
  int AmbientSize() const override { return 12; }
  int TangentSize() const override { return 6; }
  bool Plus(const double* x, const double* d, double* out) const override {
    const double a = std::sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2]);
    const double s = a < 1e-12 ? 1 : std::sin(a) / a;
    const double c = a < 1e-12 ? 0.5 : (1 - std::cos(a)) / (a * a);
    const double k[9] = {0, -d[2], d[1], d[2], 0, -d[0], -d[1], d[0], 0};
    double e[9];
    for (int i = 0; i < 3; i++)
      for (int j = 0; j < 3; j++) {
        double kk = 0;
        for (int m = 0; m < 3; m++) kk += k[3 * i + m] * k[3 * m + j];
        e[3 * i + j] = (i == j) + s * k[3 * i + j] + c * kk;
      }
    for (int i = 0; i < 3; i++)
      for (int j = 0; j < 3; j++) {
        out[3 * i + j] = 0;
        for (int m = 0; m < 3; m++) out[3 * i + j] += x[3 * i + m] * e[3 * m + j];
      }
    for (int i = 0; i < 3; i++) out[9 + i] = x[9 + i] + d[3 + i];
    return true;
  }
  bool PlusJacobian(const double* x, double* j) const override {
    std::fill(j, j + 72, 0.0);
    for (int i = 0; i < 3; i++) {
      const double* r = x + 3 * i;
      double* a = j + 18 * i;  // rows of this row of the turn
      a[1] = -r[2], a[2] = r[1];
      a[6] = r[2], a[8] = -r[0];
      a[12] = -r[1], a[13] = r[0];
      j[6 * (9 + i) + 3 + i] = 1;
    }
    return true;
  }
  bool Minus(const double*, const double*, double*) const override { return false; }
  bool MinusJacobian(const double*, double*) const override { return false; }
};

class Seen : public ceres::SizedCostFunction<2, 12, 3> {
 public:
  Seen(double x, double y, const double* optics) : x_(x), y_(y), o_(optics) {}
  bool Evaluate(double const* const* p, double* r, double** j) const override {
    const double* m = p[0];
    const double q[3] = {p[1][0] - m[9], p[1][1] - m[10], p[1][2] - m[11]};
    double c[3];
    for (int k = 0; k < 3; k++) c[k] = m[k] * q[0] + m[3 + k] * q[1] + m[6 + k] * q[2];
    const double w = -1 / c[2];
    r[0] = o_[2] + o_[0] * c[0] * w - x_;
    r[1] = o_[3] - o_[1] * c[1] * w - y_;
    if (j == nullptr) return true;
    const double d[2][3] = {{o_[0] * w, 0, o_[0] * c[0] * w * w},
                            {0, -o_[1] * w, -o_[1] * c[1] * w * w}};
    for (int row = 0; row < 2; row++) {
      if (j[0] != nullptr) {
        for (int a = 0; a < 3; a++)
          for (int k = 0; k < 3; k++) j[0][12 * row + 3 * a + k] = d[row][k] * q[a];
        for (int a = 0; a < 3; a++) {
          double v = 0;
          for (int k = 0; k < 3; k++) v -= d[row][k] * m[3 * a + k];
          j[0][12 * row + 9 + a] = v;
        }
      }
      if (j[1] != nullptr)
        for (int a = 0; a < 3; a++) {
          double v = 0;
          for (int k = 0; k < 3; k++) v += d[row][k] * m[3 * a + k];
          j[1][3 * row + a] = v;
        }
    }
    return true;
  }

 private:
  const double x_, y_;
  const double* o_;
};

}  // namespace

int main(int argc, char** argv) {
  std::ifstream in(argv[1], std::ios::binary);
  double head[3];
  in.read(reinterpret_cast<char*>(head), sizeof head);
  const int cameras = int(head[0]), points = int(head[1]), rows = int(head[2]);
  std::vector<double> cam(16 * size_t(cameras)), pts(3 * size_t(points)), obs(4 * size_t(rows));
  for (auto* v : {&cam, &pts, &obs}) in.read(reinterpret_cast<char*>(v->data()), 8 * v->size());
  if (!in) return 2;
  ceres::Problem problem;
  auto* manifold = new CameraManifold;
  for (int i = 0; i < cameras; i++) problem.AddParameterBlock(&cam[16 * i], 12, manifold);
  for (int k = 0; k < rows; k++) {
    double* c = &cam[16 * size_t(obs[4 * k + 1])];
    problem.AddResidualBlock(new Seen(obs[4 * k + 2], obs[4 * k + 3], c + 12), nullptr, c,
                             &pts[3 * size_t(obs[4 * k])]);
  }
  ceres::Solver::Options o;
  o.linear_solver_type = ceres::SPARSE_SCHUR;
  o.num_threads = 2;
  o.max_num_iterations = 100;
  o.function_tolerance = 1e-9;
  o.gradient_tolerance = 0;
  o.parameter_tolerance = 0;
  o.logging_type = ceres::SILENT;
  ceres::Solver::Summary s;
  const auto begin = std::chrono::steady_clock::now();
  ceres::Solve(o, &problem, &s);
  const std::chrono::duration<double, std::milli> took = std::chrono::steady_clock::now() - begin;
  std::printf("Ceres, sparse Schur, two threads\t%.0f\t%.6f\n", took.count(), s.final_cost);
}
