package dev.mockbell.demo;

import dev.mockbell.demo.trails.Closure;
import dev.mockbell.demo.trails.Closures;
import dev.mockbell.demo.trails.PhotoReceipt;
import dev.mockbell.demo.trails.TrailConditions;
import dev.mockbell.demo.trails.TrailReport;
import jakarta.activation.DataHandler;
import jakarta.jws.WebService;
import jakarta.xml.ws.soap.MTOM;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
import javax.xml.datatype.DatatypeConfigurationException;
import javax.xml.datatype.DatatypeFactory;

/** The trail conditions service. */
@WebService(
        serviceName = "TrailConditions",
        portName = "TrailConditionsSoap11",
        targetNamespace = "urn:northfell:trail-conditions:service",
        endpointInterface = "dev.mockbell.demo.trails.TrailConditions",
        wsdlLocation = "dev/mockbell/demo/trail-conditions.wsdl")
@MTOM
public final class TrailService implements TrailConditions {
    private static final BigDecimal FOOT = new BigDecimal("0.3048");
    private static final int MOST_CLOSURES = 5_000;
    private static final int PIECE = 64 * 1024;
    private static final List<String> WHY =
            List.of("Snow on the saddle", "The bridge is out", "Reindeer calving", "Falling rock", "Flood");

    private final Clock clock;
    private final DatatypeFactory dates;

    TrailService(Clock clock) {
        this.clock = clock;
        try {
            dates = DatatypeFactory.newInstance();
        } catch (DatatypeConfigurationException e) {
            throw new IllegalStateException(e);
        }
    }

    @Override
    public TrailReport getTrailReport(String trailId) {
        TrailReport report = new TrailReport();
        report.trailId = trailId;
        report.day = dates.newXMLGregorianCalendar(LocalDate.now(clock).toString());
        report.stages = ("""
                stage;from;to;kilometres;state
                1;Birch Saddle Hut;Skarn Tarn Hut;11.5;open
                2;Skarn Tarn Hut;Kettle Ridge Hut;14.0;snow above 1100 m
                3;Kettle Ridge Hut;Wolfgill Hut;17.5;closed
                """).getBytes(StandardCharsets.UTF_8);
        return report;
    }

    @Override
    public BigDecimal convertElevation(BigDecimal value, String from, String to) {
        if (from.equals(to)) {
            return value;
        }
        return from.equals("m")
                ? value.divide(FOOT, 2, RoundingMode.HALF_UP)
                : value.multiply(FOOT).setScale(2, RoundingMode.HALF_UP);
    }

    @Override
    public Closures listClosures(int most) {
        Closures closures = new Closures();
        LocalDate today = LocalDate.now(clock);
        for (int i = 0; i < Math.min(Math.max(0, most), MOST_CLOSURES); i++) {
            Closure closure = new Closure();
            closure.trailId = "T-%03d".formatted(1 + i % 40);
            closure.stage = 1 + i % 9;
            closure.from = dates.newXMLGregorianCalendar(today.minusDays(i / 3).toString());
            closure.until = i % 4 == 0
                    ? null
                    : dates.newXMLGregorianCalendar(today.plusDays(1 + i % 30).toString());
            closure.why = WHY.get(i % WHY.size());
            closures.closure.add(closure);
        }
        return closures;
    }

    @Override
    public PhotoReceipt uploadPhoto(String trailId, DataHandler photo) {
        try (InputStream in = photo.getInputStream()) {
            MessageDigest sum = MessageDigest.getInstance("SHA-256");
            byte[] piece = new byte[PIECE];
            PhotoReceipt receipt = new PhotoReceipt();
            for (int count = in.read(piece); count >= 0; count = in.read(piece)) {
                sum.update(piece, 0, count);
                receipt.bytes += count;
            }
            receipt.contentType = photo.getContentType();
            receipt.sha256 = sum.digest();
            return receipt;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("this Java has no SHA-256", e);
        }
    }

    @Override
    public String ping() {
        return "up";
    }
}
