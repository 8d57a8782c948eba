package dev.mockbell.demo;

import dev.mockbell.demo.huts.Hut;
import dev.mockbell.demo.huts.NightlyRate;
import dev.mockbell.demo.huts.Reservation;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.xml.datatype.DatatypeConfigurationException;
import javax.xml.datatype.DatatypeFactory;
import javax.xml.datatype.XMLGregorianCalendar;

/** Huts, bunks and reservations, in memory. What is reserved is taken until it is cancelled; a full hut is full. */
final class HutRegister {
    private static final int MOST_RESERVATIONS = 50_000;

    /** What a hut is and holds. */
    record HutPlace(String id, String name, String area, int bunks) {}

    private record Booked(Reservation reservation, String hutId, LocalDate arrival, int nights, int guests) {}

    private final Map<String, HutPlace> huts = new LinkedHashMap<>();
    private final Map<String, Booked> booked = new LinkedHashMap<>();
    private final Map<String, Integer> taken = new HashMap<>();
    private final DatatypeFactory dates;
    private int lastCode = 20_416;
    private int sightings;

    HutRegister() {
        try {
            dates = DatatypeFactory.newInstance();
        } catch (DatatypeConfigurationException e) {
            throw new IllegalStateException(e);
        }
        for (HutPlace hut : List.of(
                new HutPlace("NF-03", "Birch Saddle Hut", "Skarn", 18),
                new HutPlace("NF-07", "Skarn Tarn Hut", "Skarn", 4_000),
                new HutPlace("NF-11", "Kettle Ridge Hut", "Kettle", 24),
                new HutPlace("NF-12", "Little Cairn Hut", "Kettle", 4),
                new HutPlace("NF-20", "Wolfgill Hut", "Outer Fells", 12))) {
            huts.put(hut.id(), hut);
        }
    }

    Optional<HutPlace> hut(String id) {
        return Optional.ofNullable(huts.get(id));
    }

    List<String> areas() {
        return huts.values().stream().map(HutPlace::area).distinct().toList();
    }

    synchronized List<Hut> find(String area, LocalDate from, LocalDate until) {
        List<Hut> found = new ArrayList<>();
        for (HutPlace place : huts.values()) {
            if (area == null || area.isBlank() || place.area().equalsIgnoreCase(area.strip())) {
                Hut hut = new Hut();
                hut.hutId = place.id();
                hut.name = place.name();
                hut.area = place.area();
                hut.bunksFree =
                        free(place, from, (int) Math.max(1, Math.min(60, until.toEpochDay() - from.toEpochDay())));
                found.add(hut);
            }
        }
        return found;
    }

    /** The least number of free bunks over the nights. */
    synchronized int free(HutPlace hut, LocalDate arrival, int nights) {
        int least = hut.bunks();
        for (int i = 0; i < nights; i++) {
            least = Math.min(least, hut.bunks() - taken.getOrDefault(night(hut.id(), arrival.plusDays(i)), 0));
        }
        return least;
    }

    /** The first day from {@code arrival} on with room; empty when there is none within a year. */
    synchronized Optional<LocalDate> nextFree(HutPlace hut, LocalDate arrival, int nights, int guests) {
        for (int i = 1; i < 365; i++) {
            if (free(hut, arrival.plusDays(i), nights) >= guests) {
                return Optional.of(arrival.plusDays(i));
            }
        }
        return Optional.empty();
    }

    private static String night(String hutId, LocalDate night) {
        return hutId + " " + night;
    }

    synchronized Reservation reserve(HutPlace hut, LocalDate arrival, int nights, int guests, String board) {
        Reservation reservation = new Reservation();
        lastCode = lastCode >= 99_999 ? 10_000 : lastCode + 1;
        reservation.code = "R-" + lastCode;
        reservation.hutName = hut.name();
        reservation.bunks = guests;
        reservation.currency = "EUR";
        reservation.holdUntil = dates.newXMLGregorianCalendar(arrival.minusDays(13)
                .atTime(LocalTime.of(18, 0))
                .atOffset(ZoneOffset.UTC)
                .toString()
                .replace("18:00Z", "18:00:00Z"));
        BigDecimal nightly = perNight(guests, board);
        reservation.total = nightly.multiply(BigDecimal.valueOf(nights)).setScale(2, RoundingMode.HALF_UP);
        for (int i = 0; i < nights; i++) {
            NightlyRate rate = new NightlyRate();
            rate.night = date(arrival.plusDays(i));
            rate.amount = nightly;
            reservation.nightlyRate.add(rate);
            taken.merge(night(hut.id(), arrival.plusDays(i)), guests, Integer::sum);
        }
        reservation.voucher = ("code;hut;nights;guests\n" + reservation.code + ";" + hut.id() + ";" + nights + ";"
                        + guests + "\n")
                .getBytes(StandardCharsets.UTF_8);
        booked.put(reservation.code, new Booked(reservation, hut.id(), arrival, nights, guests));
        if (booked.size() > MOST_RESERVATIONS) {
            cancel(booked.keySet().iterator().next());
        }
        return reservation;
    }

    private static BigDecimal perNight(int guests, String board) {
        BigDecimal each = switch (board == null ? "NONE" : board) {
            case "HALF" -> new BigDecimal("46.125");
            case "FULL" -> new BigDecimal("52.00");
            default -> new BigDecimal("36.00");
        };
        return each.multiply(BigDecimal.valueOf(guests)).setScale(2, RoundingMode.HALF_UP);
    }

    synchronized Optional<Reservation> reservation(String code) {
        return Optional.ofNullable(booked.get(code)).map(Booked::reservation);
    }

    /** Gives the bunks back; empty when there is no such reservation. */
    synchronized Optional<Reservation> cancel(String code) {
        Booked gone = booked.remove(code);
        if (gone == null) {
            return Optional.empty();
        }
        for (int i = 0; i < gone.nights(); i++) {
            taken.merge(night(gone.hutId(), gone.arrival().plusDays(i)), -gone.guests(), Integer::sum);
        }
        return Optional.of(gone.reservation());
    }

    synchronized void sighting() {
        sightings++;
    }

    synchronized int sightings() {
        return sightings;
    }

    XMLGregorianCalendar date(LocalDate day) {
        return dates.newXMLGregorianCalendar(day.toString());
    }
}
