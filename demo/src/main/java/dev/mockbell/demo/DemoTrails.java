package dev.mockbell.demo;

import dev.mockbell.access.Profile;
import dev.mockbell.access.Protection;
import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.demo.fronts.Front;
import dev.mockbell.demo.fronts.Fronts;
import dev.mockbell.demo.fronts.Keys;
import dev.mockbell.expression.Variable;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.load.Conduct;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.Share;
import dev.mockbell.project.Environment;
import dev.mockbell.request.PartText;
import dev.mockbell.security.Cipher;
import dev.mockbell.security.KeyName;
import dev.mockbell.security.Token;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.imageio.ImageIO;

/** The trail conditions of the demo project, and the environments of the fronts. */
final class DemoTrails {
    static final String CONTRACT = "trail-conditions";
    private static final String PORT = "TrailConditionsSoap11";

    /** The port that is spoken over a queue. */
    static final String QUEUE_PORT = "TrailConditionsQueue";

    private static final String PHOTO = "parts/cairn.png";
    private static final String PASSWORD = "{$secret:guide-password}";

    private DemoTrails() {}

    /** The values of the project's secrets, by the environment variables that may hold them. */
    static Map<String, String> secrets() {
        return Map.of(
                "MOCKBELL_SECRET_GUIDE_PASSWORD", Fronts.PASSWORD, "MOCKBELL_SECRET_GUIDE_KEY_PASSWORD", Keys.PASSWORD);
    }

    /** Writes what cases and profiles need beside them. */
    static void files(Path folder, Keys keys) {
        keys.write(folder.resolve("trust"));
        AtomicFile.write(folder.resolve(PHOTO), photo());
    }

    /** A cairn under a grey sky. */
    private static byte[] photo() {
        BufferedImage picture = new BufferedImage(160, 120, BufferedImage.TYPE_INT_RGB);
        Graphics2D pen = picture.createGraphics();
        pen.setColor(new Color(0xC9D3D6));
        pen.fillRect(0, 0, 160, 120);
        pen.setColor(new Color(0x6E6A5E));
        for (int i = 0; i < 5; i++) {
            pen.fillOval(40 + i * 8, 88 - i * 16, 80 - i * 16, 22);
        }
        pen.dispose();
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try {
            ImageIO.write(picture, "png", bytes);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return bytes.toByteArray();
    }

    private static String sum(byte[] bytes) {
        try {
            return HexFormat.of()
                    .withUpperCase()
                    .formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("this Java has no SHA-256", e);
        }
    }

    private static Case kept(
            String operation, String id, String title, List<Check> checks, List<Capture> captures, String... lines) {
        StringBuilder body = new StringBuilder("<tc:" + operation + " xmlns:tc=\"urn:northfell:trail-conditions\">\n");
        for (String line : lines) {
            body.append("  ").append(line).append('\n');
        }
        body.append("</tc:").append(operation).append('>');
        return new Case(id, title, "", CONTRACT, operation, PORT, body.toString(), List.of(), checks, captures);
    }

    static List<Case> cases() {
        Check valid = new Check.Valid();
        Check fine = new Check.NoFault();
        return List.of(
                kept(
                        "GetTrailReport",
                        "today",
                        "Today",
                        List.of(
                                valid,
                                fine,
                                new Check.Condition("contains(bell:from-base64(//stages), 'Kettle Ridge Hut')")),
                        List.of(),
                        "<trailId>T-007</trailId>"),
                kept(
                        "ConvertElevation",
                        "metres-to-feet",
                        "Metres to feet",
                        List.of(valid, fine, new Check.Value("/ConvertElevationResponse/value", "3280.84")),
                        List.of(new Capture("feet", "/ConvertElevationResponse/value")),
                        "<value>1000</value>",
                        "<from>m</from>",
                        "<to>ft</to>"),
                kept(
                        "ConvertElevation",
                        "known-elevations",
                        "Known elevations",
                        List.of(valid, fine),
                        List.of(),
                        "<value>1000</value>",
                        "<from>m</from>",
                        "<to>ft</to>"),
                kept(
                        "ListClosures",
                        "a-long-list",
                        "A long list",
                        List.of(valid, fine, new Check.Condition("count(//closure) = 400")),
                        List.of(),
                        "<most>400</most>"),
                kept(
                                "UploadPhoto",
                                "a-cairn",
                                "A cairn",
                                List.of(
                                        valid,
                                        fine,
                                        new Check.Condition("//bytes > 100"),
                                        new Check.Value("//sha256", sum(photo()))),
                                List.of(),
                                "<trailId>T-007</trailId>",
                                "<photo>cid:cairn</photo>")
                        .withParts(List.of(new PartText("cairn", PHOTO, ""))),
                kept("Ping", "up", "Up", List.of(valid, fine), List.of()),
                kept("Ping", "via-queue", "Up, by queue", List.of(valid, fine), List.of())
                        .withPort(QUEUE_PORT));
    }

    static Suite suite() {
        return new Suite(
                "on-the-trail",
                "On the trail",
                List.of(
                        step("Ping", "Ping/up"),
                        step("Report", "GetTrailReport/today"),
                        step("Convert", "ConvertElevation/metres-to-feet"),
                        elevations(),
                        step("Closures", "ListClosures/a-long-list"),
                        step("Photo", "UploadPhoto/a-cairn")));
    }

    /** What is known of elevations, each row a call of its own. */
    private static Step elevations() {
        DataTable table = new DataTable(
                "elevations.csv",
                List.of("value", "from", "to", "result"),
                List.of(
                        List.of("1000", "m", "ft", "3280.84"),
                        List.of("914.4", "m", "ft", "3000.00"),
                        List.of("{1000 + 180}", "m", "ft", "3871.39"),
                        List.of("3280.84", "ft", "m", "1000.00"),
                        List.of("0", "m", "ft", "0"),
                        List.of("-12.5", "m", "ft", "-41.01"),
                        List.of("250", "m", "m", "250")));
        List<KnownValues.Column> columns = List.of(
                new KnownValues.Column("value", KnownValues.Use.SETS, "/ConvertElevation/value"),
                new KnownValues.Column("from", KnownValues.Use.SETS, "/ConvertElevation/from"),
                new KnownValues.Column("to", KnownValues.Use.SETS, "/ConvertElevation/to"),
                new KnownValues.Column("result", KnownValues.Use.IS, "/ConvertElevationResponse/value"));
        return new Step.Call(
                "Known elevations",
                true,
                CONTRACT + "/ConvertElevation/known-elevations",
                Optional.of(new KnownValues(table, columns)));
    }

    private static Step step(String name, String reference) {
        return Step.call(name, CONTRACT + "/" + reference);
    }

    static List<Variable> variables() {
        return List.of(new Variable("guide-password", "", true), new Variable("guide-key-password", "", true));
    }

    /** The profile of messages that say who calls, for where nothing else is asked. */
    static final String GUIDE = "Guide";

    static List<Profile> profiles() {
        Profile guide = Profile.named(GUIDE)
                .with(new Profile.Who(Profile.Way.NONE, Fronts.USER, PASSWORD))
                .with(Protection.NONE.with(Token.DIGEST));
        Profile trusting = guide.with(new Profile.Trusted(List.of(), List.of("trust/authority.pem")));
        Profile.Own own = new Profile.Own("trust/guide.p12", "{$secret:guide-key-password}");
        return List.of(
                guide,
                guide.under("Guide, at once").with(new Profile.Who(Profile.Way.BASIC, Fronts.USER, PASSWORD)),
                guide.under("Guide, when asked").with(new Profile.Who(Profile.Way.WHEN_ASKED, Fronts.USER, PASSWORD)),
                trusting.under("Guide over TLS"),
                trusting.under("Guide with a certificate").with(own),
                Profile.named("Guide, signed and encrypted")
                        .with(own)
                        .with(Protection.NONE
                                .living(300)
                                .with(new Protection.Signature(KeyName.TOKEN, List.of()))
                                .with(new Protection.Encryption(KeyName.THUMBPRINT, Cipher.AES256_GCM))
                                .facing("trust/service.pem", true)));
    }

    private static String profile(Front front) {
        return switch (front) {
            case BASIC -> "Guide, at once";
            case DIGEST -> "Guide, when asked";
            case TLS -> "Guide over TLS";
            case CLIENT_CERTIFICATE -> "Guide with a certificate";
            case SEALED -> "Guide, signed and encrypted";
            case SLOW -> GUIDE;
        };
    }

    /** An environment a front, where everything is called by what that asks for. */
    static List<Environment> environments(Fronts fronts, List<Variable> values) {
        List<Environment> made = new ArrayList<>();
        for (Front front : Front.values()) {
            Map<String, String> endpoints = new LinkedHashMap<>();
            endpoints.put(DemoProject.CONTRACT + "/HutBookingSoap11", fronts.address(front, StandIn.HUTS));
            endpoints.put(DemoProject.CONTRACT + "/HutBookingSoap12", fronts.address(front, StandIn.HUTS_12));
            endpoints.put(CONTRACT + "/" + PORT, fronts.address(front, StandIn.TRAILS));
            Map<String, String> security = new LinkedHashMap<>();
            security.put(CONTRACT, profile(front));
            if (front != Front.SLOW) {
                security.put(DemoProject.CONTRACT, profile(front));
            }
            made.add(new Environment(front.title(), endpoints, values, security));
        }
        return made;
    }

    /** The same requests by way of the queue, some a second. */
    static LoadPlan load() {
        return LoadPlan.of("trail-by-queue", "Trail by queue", "", LoadShape.arrivals(10, 4))
                .withMix(List.of(new Share(Share.Kind.CASE, CONTRACT + "/Ping/via-queue", 1)))
                .with(Conduct.USUAL.withTimeout(5_000).withSeed(42))
                .withLimits(List.of(new Limit(Limit.Measure.FAILED, 0.5)));
    }
}
