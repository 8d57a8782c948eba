package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlSchemaType;
import jakarta.xml.bind.annotation.XmlType;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import javax.xml.datatype.XMLGregorianCalendar;

/** Bunks that are held. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlType(
        name = "Reservation",
        propOrder = {"code", "hutName", "bunks", "total", "currency", "holdUntil", "voucher", "nightlyRate"})
public final class Reservation {
    @XmlElement(required = true)
    public String code;

    @XmlElement(required = true)
    public String hutName;

    public int bunks;

    @XmlElement(required = true)
    public BigDecimal total;

    @XmlElement(required = true)
    public String currency;

    @XmlSchemaType(name = "dateTime")
    @XmlElement(required = true)
    public XMLGregorianCalendar holdUntil;

    public byte[] voucher;

    @XmlElement(required = true)
    public List<NightlyRate> nightlyRate = new ArrayList<>();
}
