# Equilibrium constants K1, K2, KH, Kw after Plummer and Busenberg (1982), typed from the paper.
import math


def constants(t_c):
    t = t_c + 273.15
    lg = math.log10(t)
    k1 = 10 ** (-356.3094 - 0.06091964 * t + 21834.37 / t + 126.8339 * lg - 1684915 / t / t)
    k2 = 10 ** (-107.8871 - 0.03252849 * t + 5151.79 / t + 38.92561 * lg - 563713.9 / t / t)
    kh = 10 ** (108.3865 + 0.01985076 * t - 6919.53 / t - 40.45154 * lg + 669365 / t / t)
    kw = 10 ** (-283.971 - 0.05069842 * t + 13323 / t + 102.24447 * lg - 1119669 / t / t)
    return k1, k2, kh, kw
