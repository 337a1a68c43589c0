"""Properties of air."""

from dataclasses import dataclass
from math import exp

from purvel.shop import Site

R_DRY = 287.055  # J/(kg K), dry air [ISA 1976; high confidence]
R_VAPOUR = 461.495  # J/(kg K), water vapour [high confidence]
STANDARD_DENSITY = 1.2014  # kg/m3: 0.075 lb/ft3, the standard air of US fan practice [ACGIH, AMCA 210]


@dataclass(frozen=True, slots=True)
class AirState:
    """Air as it is in the shop: pressure [Pa], density [kg/m3], dynamic viscosity [Pa s]."""

    pressure: float
    density: float
    viscosity: float


def pressure_at(altitude: float) -> float:
    """Barometric pressure [Pa] at an altitude [m]: p = 101325 (1 - 2.25577e-5 z)^5.2559.

    International standard atmosphere 1976, 0 to 11 km, high confidence.

    >>> round(pressure_at(2000.0))
    79495
    """
    return float(101325.0 * (1.0 - 2.25577e-5 * altitude) ** 5.2559)


def density(temperature: float, pressure: float, humidity: float = 0.0) -> float:
    """Density [kg/m3] of air at a temperature [degC], a pressure [Pa] and a relative humidity [-].

    rho = (p - e)/(R_d T) + e/(R_v T), e by the Magnus form of the WMO. -40 to 50 degC, high confidence.

    >>> round(density(20.0, 101325.0, 0.0), 4)
    1.2041
    """
    kelvin = temperature + 273.15
    vapour = humidity * 611.2 * exp(17.62 * temperature / (243.12 + temperature))
    return (pressure - vapour) / (R_DRY * kelvin) + vapour / (R_VAPOUR * kelvin)


def viscosity(temperature: float) -> float:
    """Dynamic viscosity [Pa s] at a temperature [degC]: mu = 1.458e-6 T^1.5/(T + 110.4) (Sutherland; US
    Standard Atmosphere).

    -100 to 500 degC, high confidence.

    >>> round(1e5 * viscosity(20.0), 3)
    1.813
    """
    kelvin = temperature + 273.15
    return float(1.458e-6 * kelvin**1.5 / (kelvin + 110.4))


def velocity_pressure(speed: float, rho: float) -> float:
    """Velocity pressure [Pa] of air at a speed [m/s] and density [kg/m3]: rho V^2 / 2 (Bernoulli; below a
    tenth of the speed of sound).

    4000 fpm, which tables give as 1 in. w.g. of 249 Pa at 1.204 kg/m3:

    >>> round(velocity_pressure(20.32, 1.2014))
    248
    """
    return 0.5 * rho * speed * speed


def air_at(site: Site) -> AirState:
    """The air of a site."""
    pressure = pressure_at(site.altitude)
    return AirState(pressure, density(site.temperature, pressure, site.humidity), viscosity(site.temperature))
