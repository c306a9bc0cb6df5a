# Reference values for core/stats/kalman, from R's own KalmanRun and KalmanSmooth (package stats, R 4.2.2).
# Rscript tests/reference/make_kalman.R > tests/reference/kalman.json
# Data: the yearly flow of the Nile at Aswan, 1871 to 1970 (datasets::Nile; Cobb 1978, Biometrika 65, 243).
list_of <- function(x) paste0("[", paste(ifelse(is.na(x), "null", sprintf("%.15g", x)), collapse = ","), "]")
rows_of <- function(m) paste0("[", paste(apply(m, 1, list_of), collapse = ","), "]")

model <- function(T, Z, V, h, a, P) {
  n <- length(a)
  list(T = T, Z = Z, h = h, V = V, a = a, P = P, Pn = P)
}
# The state before the first observation is N(a, P): KalmanRun wants Pn, what is predicted for the first one.
report <- function(name, y, mod) {
  run <- KalmanRun(y, mod, nit = -1L, update = FALSE)
  smooth <- KalmanSmooth(y, mod, nit = -1L)
  n <- length(mod$a)
  vars <- if (n == 1) as.vector(smooth$var) else smooth$var
  var_rows <- if (n == 1) matrix(vars, ncol = 1) else t(apply(vars, 1, as.vector))
  filtered <- matrix(run$states, ncol = n)
  smoothed <- matrix(smooth$smooth, ncol = n)
  cat(sprintf('"%s":{"y":%s,"filtered":%s,"smoothed":%s,"variance":%s}', name, list_of(y), rows_of(filtered), rows_of(smoothed), rows_of(var_rows)))
}
flow <- as.numeric(Nile)
gaps <- flow
gaps[c(21:40, 61:80)] <- NA
level <- model(matrix(1), 1, matrix(1469.1), 15099, 0, matrix(1e7))
trend <- model(matrix(c(1, 0, 1, 1), 2), c(1, 0), diag(c(1200, 40)), 15099, c(0, 0), diag(c(1e7, 1e7)))
skew <- model(matrix(c(1, 0, 1, 0.9), 2), c(1, 0.5), matrix(c(900, 100, 100, 60), 2), 12000, c(900, -3), matrix(c(5e4, 200, 200, 400), 2))
cat("{")
report("level", flow, level); cat(",")
report("level with gaps", gaps, level); cat(",")
report("trend", flow, trend); cat(",")
report("trend with gaps", gaps, trend); cat(",")
report("two seen together", flow, skew)
cat("}\n")
